<script lang="ts">
  import { AT_HAND, GAS_KINDS, STUBS, TAKE_OFFS, TAPPED_BY } from '$lib/api/published';
  import Plus from '@lucide/svelte/icons/plus';
  import StampFields from '$lib/stages/intake/StampFields.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { ASKED, SHELTERS, STORAGE } from '$lib/api/published';
  import { newKey } from '$lib/session/path';
  import Questions from '$lib/frame/Questions.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { useReference } from '$lib/session/reference';

  const job = useJob();
  const reference = useReference();
  let sites = $derived(job().settled?.job.sites ?? {});
  let key = $derived(job().settled?.job.site ?? 's1');
  let at = $derived(`sites.${key}`);
  let names = $derived(
    Object.entries(sites).sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
  );
  let noise = $derived(job().now?.noise ?? job().settled?.noise ?? []);
  let sizes = $derived(
    (reference.data?.cylinders ?? []).map((size) => [size.key, size.name] as const)
  );
  const COUNTS = Array.from({ length: 8 }, (_, i) => [i + 1, String(i + 1)] as const);

  function another() {
    const fresh = newKey('s', sites);
    job().setAll([
      { path: `sites.${fresh}`, value: { name: '' } },
      { path: 'site', value: fresh }
    ]);
  }

  function removeSite() {
    const next = names.find(([other]) => other !== key)?.[0];
    if (next)
      job().setAll([
        { path: 'site', value: next },
        { path: at, remove: true }
      ]);
  }
</script>

<SheetHead
  title="The site"
  text="Where it runs, how cold and hot it gets, and what fuels are there."
/>
<Questions />

<div class="flex flex-wrap gap-[.4rem] mb-[.9rem]" role="group" aria-label="Sites of this set">
  {#each names as [name, site] (name)}
    <button
      class="btn btn-sm"
      aria-pressed={name === key}
      class:btn-primary={name === key}
      onclick={() => job().set('site', name)}>{site.name || 'unnamed site'}</button
    >
  {/each}
  <button class="btn btn-sm btn-ghost" onclick={another}><Plus size={16} />Another site</button>
  {#if names.length > 1}
    <button class="btn btn-sm btn-ghost" onclick={removeSite}>Remove this one</button>
  {/if}
</div>

{#key key}
  <div class="grid-3">
    <TextField path={`${at}.name`} label="Name" />
    <QuantityField path={`${at}.elevation`} />
    <QuantityField path={`${at}.humidity`} assumed="the rating's, assumed" />
    <QuantityField path={`${at}.coldest`} />
    <QuantityField path={`${at}.hottest`} />
    <ChoiceField path={`${at}.gasoline`} label="Gasoline at hand" options={AT_HAND} />
  </div>

  <Rows
    path={`${at}.cylinders`}
    prefix="c"
    title="Propane cylinders"
    text="A weighing less the stamped tare is best; exchange cylinders often hold 15 of 20 lb."
    add="Add cylinders"
    fresh={{ size: '20' }}
  >
    {#snippet row(path)}
      <div class="grid-3">
        <ChoiceField path={`${path}.size`} label="Size" options={sizes} />
        <ChoiceField path={`${path}.count`} label="How many together" options={COUNTS} />
        <ChoiceField path={`${path}.shelter`} label="Around the cylinder" options={SHELTERS} />
        <QuantityField path={`${path}.weighed`} hint="Scale reading, cylinder and all." />
        <QuantityField path={`${path}.tare`} assumed="typical" />
        <QuantityField path={`${path}.fill`} assumed="full (80 %)" />
        <QuantityField path={`${path}.distance`} />
        <StampFields {path} />
      </div>
    {/snippet}
  </Rows>

  <Rows
    path={`${at}.gases`}
    prefix="g"
    title="Gas on the site"
    text="The utility knows the heating value; a gas analysis gives biogas its methane share."
    add="Add a gas"
    fresh={{ kind: 'natural_gas' }}
  >
    {#snippet row(path)}
      {@const kind = job().settled?.job.sites[key]?.gases[path.split('.').at(-1) ?? '']?.kind}
      <div class="grid-3">
        <ChoiceField path={`${path}.kind`} label="Gas" options={GAS_KINDS} />
        {#if kind === 'biogas'}
          <QuantityField path={`${path}.methane`} assumed="60 %, assumed" />
          <QuantityField path={`${path}.sulfide`} />
          <ChoiceField path={`${path}.cleaned`} label="Scrubbed and dried" options={ASKED} />
        {:else}
          <QuantityField path={`${path}.hhv`} assumed="1,030 BTU/ft³" />
          <QuantityField path={`${path}.specific_gravity`} assumed="0.60" />
          <QuantityField path={`${path}.meter`} />
          <QuantityField path={`${path}.appliances`} />
          <ChoiceField path={`${path}.take_off`} label="Taken off at" options={TAKE_OFFS} />
          <ChoiceField path={`${path}.tapped`} label="Joined by" options={TAPPED_BY} />
        {/if}
        <QuantityField path={`${path}.pressure`} />
        <ChoiceField path={`${path}.stub`} label="Pipe thread there" options={STUBS} />
        <QuantityField path={`${path}.distance`} />
        <QuantityField path={`${path}.rise`} />
      </div>
    {/snippet}
  </Rows>

  <section class="section">
    <h2>Remote gasoline tank</h2>
    <div class="grid-3">
      <QuantityField path={`${at}.remote_tank.volume`} />
      <QuantityField path={`${at}.remote_tank.rise`} hint="Negative when it lies below." />
      <QuantityField path={`${at}.remote_tank.distance`} />
      <QuantityField path={`${at}.remote_tank.depth`} />
      <QuantityField path={`${at}.remote_tank.high_loop`} hint="0 where the line only falls." />
    </div>
  </section>

  <section class="section">
    <h2>Local rules</h2>
    <div class="grid-3">
      <ChoiceField path={`${at}.storage`} label="Fuel is stored" options={STORAGE} />
      <TextField path={`${at}.quiet_hours`} label="Quiet hours" placeholder="22 to 7" />
      <QuantityField path={`${at}.neighbor`} />
      <QuantityField path={`${at}.quiet_limit`} hint="As the place or the campground asks." />
      <div class="noise" data-noise>
        {#each noise as one (one.key)}
          <span>{one.label}</span><Figure figure={one} band />
        {:else}
          <span class="quiet">How loud it is there follows from the plate's sound level.</span>
        {/each}
      </div>
      <QuantityField
        path={`${at}.least_opening`}
        assumed="20 ft (6 m)"
        hint="Nearer only with a reason and a name, and never under 10 ft (3 m)."
      />
      <TextField path={`${at}.least_opening_why`} label="Why nearer to openings" />
      <TextField path={`${at}.least_opening_by`} label="Who says so, openings" />
      <QuantityField
        path={`${at}.least_cylinder`}
        assumed="5 ft (1.5 m)"
        hint="Nearer only with a reason and a name, and never under 3 ft (0.9 m)."
      />
      <TextField path={`${at}.least_cylinder_why`} label="Why nearer to a cylinder" />
      <TextField path={`${at}.least_cylinder_by`} label="Who says so, cylinder" />
    </div>
    <TextField path={`${at}.note`} label="Notes on the site" rows={3} />
  </section>
{/key}

<style>
  .noise {
    grid-column: span 2;
    display: grid;
    grid-template-columns: auto 1fr;
    align-content: start;
    align-items: baseline;
    justify-items: start;
    gap: 0.3rem 1rem;
    padding-top: 1.6rem;
  }
</style>
