<script lang="ts">
  import { HOLE_SOURCES, MATERIALS, MOUNT_FACES, REACHES, SIDES, STANDS } from '$lib/api/published';
  import Tick from '$lib/ui/Tick.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { components } from '$lib/api/schema';

  interface Props {
    key: string;
    things: components['schemas']['ThingOut'][];
  }
  let { key, things }: Props = $props();
  const job = useJob();
  let path = $derived(`marks.${key}`);
  let mount = $derived(job().settled?.job.marks?.[key]);
  let faces = $derived(
    Object.entries(job().settled?.job.set.faces ?? {}).map(
      ([key, one]) => [key, one.name || key] as const
    )
  );
  let tube = $derived(mount?.face === 'tube');
  const EDGES = [
    ['left', 'left'],
    ['right', 'right'],
    ['top', 'upper'],
    ['bottom', 'lower']
  ] as const;
  let kinds = $derived(
    things.map((one) => [one.kind, `${one.name}, keeps off ${one[prefs.system]}`] as const)
  );

  function hook(edge: string, on: boolean) {
    const now = (job().latest(`${path}.hooks`) as string[] | undefined) ?? [];
    job().set(`${path}.hooks`, on ? [...now, edge] : now.filter((one) => one !== edge));
  }
</script>

<section class="section">
  <h2>The face</h2>
  <div class="grid-3">
    {#if faces.length}
      <ChoiceField
        path={`${path}.of_face`}
        label="Face as measured at Intake"
        options={[['', 'another one'], ...faces]}
      />
    {/if}
    <TextField path={`${path}.name`} label="Face" placeholder="left panel" />
    <ChoiceField path={`${path}.face`} label="What it is" options={MOUNT_FACES} />
    <ChoiceField path={`${path}.stands`} label="The face is upright" options={STANDS} />
    <QuantityField path={`${path}.wide`} label={tube ? 'Straight length' : 'Width'} />
    <QuantityField path={`${path}.high`} label={tube ? 'Diameter' : 'Height'} />
    {#if !tube}<QuantityField path={`${path}.room`} />{/if}
    <QuantityField path={`${path}.stand_off`} hint="none when empty" />
    <ChoiceField path={`${path}.reach`} label="A hand reaches it from" options={REACHES} />
    <ChoiceField path={`${path}.holes`} label="Its holes" options={HOLE_SOURCES} />
    {#if mount?.holes}
      <QuantityField path={`${path}.bolts_across`} />
      <QuantityField path={`${path}.bolts_up`} />
      <QuantityField path={`${path}.bolt`} hint="Thread of its bolts." />
    {/if}
  </div>
  <fieldset>
    <legend>A tape hooks on its edges</legend>
    {#each EDGES as [edge, text] (edge)}
      <Tick
        path={`${path}.hooks`}
        checked={mount?.hooks?.includes(edge) ?? false}
        change={(on) => hook(edge, on)}>{text}</Tick
      >
    {/each}
  </fieldset>
  <Photos subject={path} label="this face" />
</section>
{#if !tube}
  <Rows
    path={`${path}.layers`}
    prefix="l"
    title="Layers"
    text="What the drill goes through, from the front."
    add="Add a layer"
    fresh={{ material: 'steel' }}
  >
    {#snippet row(at)}
      <div class="grid-3">
        <ChoiceField path={`${at}.material`} label="Material" options={MATERIALS} />
        <QuantityField path={`${at}.thickness`} />
        <QuantityField path={`${at}.hole`} hint="the part's own when empty" />
      </div>
    {/snippet}
  </Rows>
{/if}
<Rows
  path={`${path}.obstacles`}
  prefix="o"
  title="What is round it"
  text="Before and behind the face, each as a rectangle from the left and lower edge."
  add="Add something"
  fresh={{ kind: 'other', side: 'behind' }}
>
  {#snippet row(at)}
    <div class="grid-3">
      <ChoiceField path={`${at}.kind`} label="What" options={kinds} />
      <ChoiceField path={`${at}.side`} label="Where" options={SIDES} />
      <QuantityField path={`${at}.away`} hint="touching when empty" />
      <QuantityField path={`${at}.left`} />
      <QuantityField path={`${at}.up`} />
      <QuantityField path={`${at}.wide`} />
      <QuantityField path={`${at}.high`} />
    </div>
  {/snippet}
</Rows>

<style>
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    margin-bottom: 0.6rem;
  }
  legend {
    font-weight: 600;
    float: left;
    margin-right: 1rem;
  }
</style>
