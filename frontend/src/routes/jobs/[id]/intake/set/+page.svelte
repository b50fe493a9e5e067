<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import Files from '$lib/frame/Files.svelte';
  import { CLASSES, CYLINDER_COUNTS, GASOLINES, JETTED_ON, LEGS, PHASES } from '$lib/api/published';
  import Rows from '$lib/ui/Rows.svelte';
  import RunTimes from '$lib/stages/intake/RunTimes.svelte';
  import Alike from '$lib/stages/intake/Alike.svelte';
  import WeighIns from '$lib/stages/intake/WeighIns.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Questions from '$lib/frame/Questions.svelte';

  const job = useJob();
  let bare = $derived(job().settled?.job.set.set_class === 'engine');
</script>

<SheetHead
  title="The set"
  text="As its plate, its sheet and its owner tell it. Any unit, as typed."
/>
<Questions />
<Alike />

<div class="grid-3">
  <TextField path="title" label="Job" />
  <TextField path="owner" label="Owner" />
  <ChoiceField path="set.set_class" label="Class" options={CLASSES} />
  <TextField path="set.maker" label="Maker" />
  <TextField path="set.model" label="Model" />
  <TextField path="set.serial" label="Serial number" />
</div>
<section class="section">
  <h2>Rating</h2>
  <div class="grid-3">
    <QuantityField path="set.running" />
    <QuantityField path="set.starting" />
    {#if bare}
      <QuantityField path="set.rated_speed" />
      <TextField path="set.drives" label="What it drives" placeholder="irrigation pump" />
    {:else}
      <QuantityField path="set.apparent" assumed="as its watts" />
      <QuantityField path="set.volts" />
    {/if}
    <QuantityField path="set.rating_elevation" assumed="sea level, assumed" />
    <QuantityField path="set.rating_temperature" assumed={298.15} />
    {#if !bare}<ChoiceField path="set.phases" label="Phases" options={PHASES} />{/if}
  </div>
  {#if bare}
    <p class="quiet">A bare engine’s watts are those of its shaft, at its working speed.</p>
  {/if}
</section>

{#if !bare}<Rows
    path="set.outlets"
    prefix="o"
    title="Receptacles"
    text="Each with its breaker: what it carries is told where the loads are listed."
    add="Add a receptacle"
    fresh={{ name: '' }}
  >
    {#snippet row(path)}
      <div class="grid gap-x-4 grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))]">
        <TextField path={`${path}.name`} label="Receptacle" placeholder="front, left" />
        <QuantityField path={`${path}.breaker`} />
        <ChoiceField path={`${path}.leg`} label="On" options={LEGS} />
      </div>
    {/snippet}
  </Rows>{/if}

<section class="section">
  <h2>{bare ? 'Engine' : 'Engine and alternator'}</h2>
  <div class="grid-3">
    <QuantityField path="set.displacement" />
    <QuantityField path="set.shaft_power" hint="Net, at the working speed." />
    {#if !bare}<QuantityField path="set.alternator_efficiency" assumed="82 %, assumed" />{/if}
    <ChoiceField path="set.cylinders" label="Cylinders" options={CYLINDER_COUNTS} />
    <QuantityField
      path="set.reserve_ratio"
      assumed="1.0, assumed"
      hint="Engine over rating, when shaft power is not known."
    />
    <QuantityField path="set.sound_level" hint="From the plate." />
    <QuantityField path="set.gas_efficiency" assumed="1.0, assumed" />
  </div>
</section>

<section class="section">
  <h2>Carburetor and tank</h2>
  <div class="grid-3">
    <QuantityField path="set.carburetor.jetted_at" assumed="sea level, assumed" />
    <QuantityField path="set.tank" />
    <ChoiceField path="set.gasoline" label="Gasoline" options={GASOLINES} />
    <ChoiceField
      path="set.carburetor.jets.made_on"
      label="Jet chosen on"
      options={JETTED_ON}
      hint="Ethanol leans a jet chosen without it."
    />
    {#if !bare}<QuantityField path="set.hertz" />{/if}
  </div>
</section>

<RunTimes />
<WeighIns />

<section class="section">
  <h2>Notes and papers</h2>
  <TextField path="set.note" label="Notes on the set" rows={3} />
  <Files />
</section>
