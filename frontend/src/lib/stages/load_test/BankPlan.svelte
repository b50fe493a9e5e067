<script lang="ts">
  import { LOAD_LEGS } from '$lib/api/published';
  import Tick from '$lib/ui/Tick.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { LoadTest } from './types';

  interface Props {
    test: LoadTest;
  }
  let { test }: Props = $props();
  const job = useJob();
  let at = $derived(`load_tests.${test.key}`);
  let bank = $derived(test.bank);
  let more = $state(false);
  let typed = $derived(
    bank.loads.filter((one) => one.key.startsWith('here-')).map((one) => one.key.slice(5))
  );
  /** Being typed: a load without watts is not at hand yet. */
  let fresh = $state('');

  function toggle(key: string, here: boolean) {
    const without = (job().latest(`${at}.without`) as string[] | undefined) ?? [];
    job().set(`${at}.without`, here ? without.filter((one) => one !== key) : [...without, key]);
  }

  function add() {
    fresh = freshKey('b');
    job().set(`${at}.loads.${fresh}`, {});
  }
</script>

<section aria-labelledby="bank">
  <h2 id="bank">Switch on</h2>
  {#if bank.on.length}
    <table>
      <tbody>
        {#each bank.on as one (`${one.name}${one.leg}`)}
          <tr>
            <td class="num count w-12 text-right">{one.count} ×</td>
            <td>{one.name}</td>
            {#if test.legs > 1}<td class="leg"
                ><b class="num"
                  >{one.leg === 'both'
                    ? ['A', 'A+B', 'A+B+C'][test.legs - 1]
                    : one.leg.toUpperCase()}</b
                ></td
              >{/if}
            <td class="num watts">{one.watts[prefs.system]}</td>
          </tr>
        {/each}
        <tr class="total" data-bank={bank.enough}>
          <td></td>
          <td
            >together{#if test.legs > 1}, legs {bank.legs
                .map((one) => one[prefs.system])
                .join(' and ')}{/if}</td
          >
          {#if test.legs > 1}<td></td>{/if}
          <td class="num watts"
            ><b>{bank.total[prefs.system]}</b>
            <span class="quiet">{Math.floor(bank.share * 100)} %</span></td
          >
        </tr>
      </tbody>
    </table>
  {/if}
  {#if !bank.enough}
    <p class="text-error font-semibold" role="status">
      Not enough at hand for a test that counts: {bank.short[prefs.system]} more, or a load of the owner's.
    </p>
  {/if}
  <button class="link" aria-expanded={more} onclick={() => (more = !more)}>What is at hand</button>
  {#if more}
    <ul>
      {#each bank.loads as one (one.key)}
        <li>
          <Tick path={`${at}.without`} checked={!one.without} change={(on) => toggle(one.key, on)}
            >{one.count > 1 ? `${one.count} × ` : ''}{one.name}</Tick
          >
          <span class="num">{one.watts[prefs.system]}</span>
        </li>
      {/each}
    </ul>
    {#each [...new Set([...typed, ...(fresh ? [fresh] : [])])] as key (key)}
      <div class="typed">
        <TextField path={`${at}.loads.${key}.name`} label="What it is" />
        <QuantityField path={`${at}.loads.${key}.watts`} />
        {#if test.legs > 1}
          <ChoiceField path={`${at}.loads.${key}.leg`} label="Goes on" options={LOAD_LEGS} />
        {/if}
        <button
          class="link"
          onclick={() => {
            job().remove(`${at}.loads.${key}`);
            fresh = '';
          }}>take out</button
        >
      </div>
    {/each}
    <button class="btn btn-sm" onclick={add}>Something else is here</button>
  {/if}
</section>

<style>
  h2 {
    font-weight: 700;
  }
  table {
    width: 100%;
    max-width: 32rem;
  }
  td {
    border-top: 1px solid var(--rule);
    padding: 0.15rem 0.7rem 0.15rem 0;
  }

  .leg b {
    border: 1px solid var(--rule);
    border-radius: 0.25rem;
    padding: 0 0.35rem;
  }
  .watts {
    text-align: right;
    white-space: nowrap;
    padding-right: 0;
  }
  .total td {
    border-top-color: var(--color-base-content);
  }

  ul {
    columns: 2 14rem;
    max-width: 40rem;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.6rem;
    break-inside: avoid;
    padding: 0.1rem 0;
  }
  li .num {
    white-space: nowrap;
  }
  .typed {
    display: grid;
    grid-template-columns: 1fr 1fr auto auto;
    gap: 0 0.8rem;
    align-items: center;
    max-width: 40rem;
  }
</style>
