<script lang="ts">
  import { RAN } from '$lib/api/published';
  import { opens } from '$lib/ui/focus';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    gas: GasMetering;
    /** The reading being typed. */
    typing: string;
    open: (key: string) => void;
  }
  let { gas, typing, open }: Props = $props();
  const job = useJob();
  const SIGNALS = { output: 'Output held', speed: 'Engine speed', throttle: 'Throttle' };
  let at = $derived(`metering.${gas.key}.readings`);
</script>

{#if gas.readings.length}
  <table class="readings">
    <thead
      ><tr><th>Turns</th><th>{SIGNALS[gas.signal]}</th><th>λ</th><th>Ran</th><th></th><th></th></tr
      ></thead
    >
    <tbody>
      {#each gas.readings as one, i (one.key)}
        {#if one.key === typing}
          <tr class="typing"
            ><td colspan="6">
              <div class="fields" use:opens>
                <QuantityField path={`${at}.${one.key}.turns`} />
                <QuantityField
                  path={`${at}.${one.key}.${gas.signal}`}
                  label={SIGNALS[gas.signal]}
                />
                <QuantityField path={`${at}.${one.key}.lam`} />
                <ChoiceField path={`${at}.${one.key}.ran`} label="It ran" options={RAN} />
                <button class="btn btn-sm" onclick={() => open('')}>Close</button>
              </div>
            </td></tr
          >
        {:else}
          <tr data-reading={one.key}>
            <td class="num">{one.turns_shown || '–'}</td>
            <td class="num">{one.shown[prefs.system]}</td>
            <td class="num">{one.lam || '–'}</td>
            <td>{one.ran}</td>
            <td
              >{#if one.simulated}<b class="simulated">simulated</b>{:else}<span class="by quiet"
                  >{one.by}</span
                >{/if}</td
            >
            <td class="acts">
              <button
                class="link"
                aria-label={`Change reading ${i + 1}`}
                onclick={() => open(one.key)}>change</button
              >
              <button
                class="link"
                aria-label={`Take out reading ${i + 1}`}
                onclick={() => job().remove(`${at}.${one.key}`)}>take out</button
              >
            </td>
          </tr>
        {/if}
      {/each}
    </tbody>
  </table>
{/if}

<style>
  table {
    max-width: 44rem;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
    gap: 0.2rem 0.8rem;
    align-items: center;
    border-left: 3px solid var(--color-primary);
    padding-left: 0.7rem;
  }
  @media (max-width: 600px) {
    .by,
    th:nth-child(3),
    td:nth-child(3):not([colspan]) {
      display: none;
    }
  }
</style>
