<script lang="ts">
  import { signed } from '$lib/session/record';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    gas: GasMetering;
  }
  let { gas }: Props = $props();
  const job = useJob();
  let at = $derived(`metering.${gas.key}`);
  const STATES = [
    ['good', 'Good'],
    ['bad', 'Not good']
  ] as const;

  function look(key: string, state: 'good' | 'bad', was: string) {
    job().set(`${at}.checks.${key}`, {
      state: was === state ? '' : state,
      ...signed(),
      at: gas.locked_turns,
      // Seen on the simulated bench, it says nothing of the machine.
      origin: gas.simulated ? 'simulated' : 'measured'
    });
  }
</script>

<section aria-labelledby="looks">
  <h2 id="looks">Afterwards</h2>
  {#if gas.screw}
    <div class="fields">
      <QuantityField
        path={`${at}.locked`}
        hint={gas.simulated && gas.locked ? 'From the simulated bench: proves nothing.' : ''}
      />
      <TextField path={`${at}.seat`} label="Counted from" />
      {#if gas.barrels > 1}
        <QuantityField path={`${at}.left`} />
        <QuantityField path={`${at}.right`} />
      {/if}
      <QuantityField path={`${at}.idle`} />
    </div>
  {/if}
  <ul>
    {#each gas.looks as one (one.key)}
      <li data-look={one.key}>
        <span>{one.text}</span>
        {#if one.state && one.simulated}<b class="simulated">simulated</b>
        {:else if one.before}
          <span class="quiet" data-before={one.before}
            >{one.by}, at <b class="num">{one.before}</b> turns: check again</span
          >
        {:else}<span class="by quiet">{one.state ? one.by : ''}</span>{/if}
        <span class="acts" role="group" aria-label={one.text}>
          {#each STATES as [state, text] (state)}
            <button
              class="btn btn-sm"
              class:chosen={one.state === state}
              class:bad={state === 'bad'}
              aria-pressed={one.state === state}
              onclick={() => look(one.key, state, one.state)}>{text}</button
            >
          {/each}
        </span>
      </li>
    {/each}
  </ul>
</section>

<style>
  h2 {
    font-weight: 700;
    margin: 0.9rem 0 0.2rem;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(13rem, 1fr));
    gap: 0 1rem;
    max-width: 44rem;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.8rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0;
    max-width: 44rem;
  }
  li > span:first-child {
    flex: 1;
    min-width: 14rem;
  }
  .simulated {
    color: var(--color-error);
    font-size: 0.85rem;
  }
  .acts {
    display: flex;
    gap: 0.3rem;
    margin-left: auto;
  }
  @media (max-width: 600px) {
    li > span:first-child {
      flex-basis: 100%;
    }
  }
  .chosen {
    background: var(--color-success);
    color: var(--color-success-content);
  }
  .chosen.bad {
    background: var(--color-error);
    color: var(--color-error-content);
  }
</style>
