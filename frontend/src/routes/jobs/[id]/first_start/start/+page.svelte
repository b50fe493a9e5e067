<script lang="ts">
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { freshKey, signed } from '$lib/session/record';
  import FuelTabs from '$lib/frame/FuelTabs.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Forbidden from '$lib/frame/Forbidden.svelte';
  import Attempts from '$lib/stages/first_start/Attempts.svelte';
  import type { Tried } from '$lib/stages/first_start/attempts';
  import Orders from '$lib/stages/method/Orders.svelte';
  import LookList from '$lib/stages/first_start/LookList.svelte';

  const job = useJob();
  let starts = $derived(
    [...(job().now?.starts ?? job().settled?.starts ?? [])].sort(
      (a, b) => Number(b.own_tank) - Number(a.own_tank)
    )
  );
  let chosen = $state('');
  let one = $derived(
    starts.find((start) => start.fuel === chosen) ??
      starts.find((start) => start.holds) ??
      starts[0]
  );
  let at = $derived(`starts.${one?.fuel}`);
  let keeps = $derived(job().settled?.job.wants.keep_gasoline ?? true);

  function look(key: string, state: '' | 'good' | 'bad') {
    job().set(`${at}.looked.${key}`, { state, ...signed() });
  }

  function keep(tried: Tried) {
    job().set(`${at}.attempts.${freshKey('a')}`, { ...tried, ...signed() });
  }
</script>

<SheetHead title="First start" text="Gasoline first, to prove nothing was upset; then each gas.">
  <FuelTabs
    fuels={starts.map(({ fuel, gas, name, own_tank }) => ({
      fuel,
      name: gas ? name : own_tank ? 'gasoline' : 'remote gasoline'
    }))}
    chosen={one?.fuel}
    choose={(fuel) => (chosen = fuel)}
  />
</SheetHead>

{#if !one}
  <p class="quiet">No train yet: work it out under Fuel path, then its first start stands here.</p>
{:else}
  {#if !one.holds}
    <p class="quiet">Nothing waits for it: note it, so that before and after can be compared.</p>
  {/if}
  <Forbidden no="No start" gas={one.name} why={one.forbidden} />
  <Orders orders={one.orders} first="start." />
  <LookList
    title="Start gate"
    looks={one.looks.filter((entry) => entry.when === 'before')}
    at={`${at}.looked`}
    left={one.gate_left}
    set={look}
  />
  {#if !one.forbidden.length}
    {#if one.gate_left}
      <p class="quiet mt-[.7rem] font-semibold">
        {one.gate_left} of the gate open: no pull before they are good. If you smell gas, shut it off
        and get everyone out.
      </p>
    {:else}
      {#key one.fuel}
        <Attempts
          start={one}
          {keep}
          fault={job().errors[at] ?? ''}
          remove={(key: string) => job().remove(`${at}.attempts.${key}`)}
        />
      {/key}
    {/if}
  {/if}
  <LookList
    title={one.gas || one.own_tank
      ? 'Proof, once it runs'
      : 'Proof of the remote tank, once it runs'}
    looks={one.looks.filter((entry) => entry.when === 'after')}
    at={`${at}.looked`}
    left={one.after_left}
    set={look}
  />
  {#if one.gas && one.ran}
    <div class="figures">
      <QuantityField path={`${at}.died_after`} />
      <QuantityField path={`${at}.no_load`} />
      {#if keeps}
        <QuantityField path={`${at}.change_over`} />
        <QuantityField path={`${at}.load_before`} />
        <QuantityField path={`${at}.load_after`} />
      {/if}
    </div>
    {#if one.run_on}<p>Runs on, at most: <Figure figure={one.run_on} band />.</p>{/if}
    {#if keeps && one.changes_in}
      <p>Change-over: <Figure figure={one.changes_in} band />.</p>
    {/if}
    {#if one.lost}
      <p data-lost>Gasoline since the work: <Figure figure={one.lost} signed />.</p>
    {/if}
  {/if}
{/if}

<style>
  .figures {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
    gap: 0 1rem;
    margin-top: 0.5rem;
    max-width: 52rem;
  }
</style>
