<script lang="ts">
  import { AT_HAND } from '$lib/api/published';
  import Plus from '@lucide/svelte/icons/plus';
  import StampFields from '$lib/stages/intake/StampFields.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { SHELTERS } from '$lib/api/published';
  import { newKey } from '$lib/session/path';
  import Questions from '$lib/frame/Questions.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { useReference } from '$lib/session/reference';
  import LocalRules from '$lib/stages/intake/LocalRules.svelte';
  import SiteGases from '$lib/stages/intake/SiteGases.svelte';

  const job = useJob();
  const reference = useReference();
  let sites = $derived(job().settled?.job.sites ?? {});
  let key = $derived(job().settled?.job.site ?? 's1');
  let at = $derived(`sites.${key}`);
  let names = $derived(
    Object.entries(sites).sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
  );
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

  <SiteGases {at} />

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

  <LocalRules {at} />
{/key}
