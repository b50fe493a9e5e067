<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { APPLIANCES, LEGS, MUST } from '$lib/api/published';
  import Motors from '$lib/stages/intake/Motors.svelte';
  import UsualLoads from '$lib/stages/intake/UsualLoads.svelte';
  import { GAS_FUELS } from '$lib/ui/fuels';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  const WANTS = [
    ...GAS_FUELS.map((one) => [one.key, one.name] as const),
    ['remote_tank', 'a remote gasoline tank'],
    ['elevation', 'right for its elevation'],
    ['keep_gasoline', 'gasoline kept']
  ] as const;
  let wants = $derived(job().settled?.job.wants);
  let motors = $derived(job().now?.motors ?? job().settled?.motors ?? []);
  let legs = $derived(job().now?.legs ?? job().settled?.legs ?? []);
  let outlets = $derived(job().now?.outlets ?? job().settled?.outlets ?? []);
  let plugs = $derived([
    ['', 'not said'] as const,
    ...Object.entries(job().settled?.job.set.outlets ?? {}).map(
      ([key, one]) => [key, one.name || `${one.breaker?.typed || key}`] as const
    )
  ]);
  /** Whether the receptacle it is plugged into tells the leg. */
  function wired(path: string): boolean {
    const set = job().settled?.job;
    const one = set?.load.appliances?.[path.split('.').at(-1) ?? ''];
    return Boolean(one?.outlet && set?.set.outlets?.[one.outlet]?.leg);
  }
</script>

<SheetHead
  title="What the owner wants"
  text="In the owner's words, as choices, and what the set must carry."
/>
<TextField path="wish" label="In the owner's words" rows={2} />

<fieldset>
  <legend>Asked for</legend>
  {#each WANTS as [key, text] (key)}
    <Tick path={`wants.${key}`} checked={wants?.[key] ?? false}>{text}</Tick>
  {/each}
</fieldset>

<section class="section">
  <h2>Load together</h2>
  <div class="grid-2">
    <QuantityField
      path="load.planned"
      assumed="the loads below that must run"
      hint="Watts, or V × A."
    />
    <QuantityField
      path="load.largest_start"
      assumed="worst case of the loads below"
      hint="Everything running as the hardest motor starts."
    />
  </div>
</section>

<Rows
  path="load.appliances"
  prefix="a"
  title="Loads"
  text="One by one: running watts or V × A, how it starts, and whether it must run."
  add="Add a load"
  fresh={{ name: '' }}
>
  {#snippet row(path)}
    <div class="grid gap-x-4 grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))]">
      <TextField path={`${path}.name`} label="Load" placeholder="vaccine fridge" />
      <QuantityField path={`${path}.running`} />
      <QuantityField path={`${path}.starting`} assumed="by its kind" />
      <ChoiceField path={`${path}.kind`} label="Kind" options={APPLIANCES} />
      <QuantityField path={`${path}.power_factor`} assumed="by its kind" />
      {#if plugs.length > 1}
        <ChoiceField path={`${path}.outlet`} label="Plugged into" options={plugs} />
      {/if}
      {#if !wired(path)}<ChoiceField path={`${path}.leg`} label="On" options={LEGS} />{/if}
      <ChoiceField path={`${path}.must_run`} label="Need" options={MUST} />
    </div>
  {/snippet}
</Rows>
<UsualLoads />
{#if motors.length}<Motors {motors} />{/if}
{#if legs.length}
  <section class="section" id="legs">
    <h2>Legs</h2>
    <ul data-legs>
      {#each legs as one (one.name)}
        <li class:over={one.over}>
          <Figure figure={one.carries} />
          {one.carries.label}
          {#if one.over}<b>more than a leg gives</b>{/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#if outlets.length}
  <section class="section">
    <h2>Receptacles</h2>
    <ul data-outlets>
      {#each outlets as one (one.draws.key)}
        <li class:over={one.over || one.long_over}>
          <Figure figure={one.draws} />
          {one.draws.label}
          {#if one.over}<b>its breaker trips</b>{:else if one.long_over}<b>trips after hours</b
            >{/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
<section class="section"><TextField path="load.note" label="Notes on the load" rows={2} /></section>

<style>
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 1.4rem;
  }
  li b {
    margin-left: 0.6rem;
    color: var(--color-error);
  }
  legend {
    font-weight: 600;
    margin-bottom: 0.3rem;
  }
</style>
