<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import Face from '$lib/stages/fit/Face.svelte';
  import MountFields from '$lib/stages/fit/MountFields.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { newKey } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import MountFacts from '$lib/stages/fit/MountFacts.svelte';

  const job = useJob();
  let marks = $derived(job().now?.marks ?? job().settled?.marks);
  let chosen = $state('');
  let mount = $derived(
    marks?.mounts.find((one) => one.key === chosen) ?? marks?.mounts.at(0) ?? undefined
  );
  let query = $derived(`sheet=${prefs.system === 'us' ? 'letter' : 'a4'}&system=${prefs.system}`);
  let base = $derived(`/api/jobs/${job().id}`);

  function begin(part: string) {
    const key = newKey('m', job().settled?.job.marks ?? {});
    job().set(`marks.${key}`, {
      part,
      layers: { l1: { material: 'steel' } }
    });
    chosen = key;
  }

  function compute(key: string) {
    job().setAll([
      { path: `marks.${key}.left`, value: null },
      { path: `marks.${key}.up`, value: null }
    ]);
  }
</script>

<SheetHead title="Marks" text="Where it goes, from edges a tape hooks on." />

{#if marks}
  <div class="bar">
    <nav aria-label="Mounts">
      {#each marks.mounts as one (one.key)}
        <button
          class="btn btn-sm"
          aria-pressed={one.key === mount?.key}
          onclick={() => (chosen = one.key)}
          >{one.part.split(' ').slice(1).join(' ').split(',')[0] || one.key}</button
        >
      {/each}
      {#each marks.wanting as one (one.part)}
        <button class="btn btn-sm btn-primary" onclick={() => begin(one.part)}
          >Place the {one.name.split(',')[0]}</button
        >
      {/each}
    </nav>
    <span class="no-print">
      Panel label
      <a class="btn btn-sm" href={`${base}/label.pdf?${query}`} download>PDF</a>
      <a class="btn btn-sm" href={`${base}/label.svg`} download>SVG</a>
    </span>
  </div>
{/if}
{#if mount}
  {#each mount.stops as one (one.text)}
    <p class="stop" role="alert" data-stop>
      {one.text}
      <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>change it</a>
    </p>
  {/each}
  {#if mount.blockers.length}
    <p class="stop" data-blocked>
      {mount.computed ? 'No place on this face. In the way:' : 'Not here:'}
      {#each mount.blockers as one, at (one.what)}{at ? '; ' : ' '}<b>{one.what}</b> by
        <span class="num">{one[prefs.system]}</span> ({one.why
          .toLowerCase()
          .replace(/\.$/, '')}){/each}.
    </p>
  {/if}
  {#if mount.missing.length}
    <p class="open">To measure: {mount.missing.map((one) => one.text).join(', ')}.</p>
  {/if}
  {#if mount.wide_m && mount.high_m}
    <Face {mount} />
    <div class="bar">
      <p>
        {#if mount.ready && mount.room}
          {mount.computed ? 'Best place' : 'Clears everything'}: <Figure figure={mount.room} /> to spare
          at the {mount.tightest}.
        {/if}
        {#if !mount.computed}
          <button class="link" onclick={() => compute(mount.key)}>Compute the best place</button>
        {/if}
      </p>
      {#if mount.ready && mount.drilled}
        <span class="acts no-print">
          Drill template
          <a class="btn btn-sm" href={`${base}/marks/${mount.key}/template.pdf?${query}`} download
            >PDF, true size</a
          >
          <a class="btn btn-sm" href={`${base}/marks/${mount.key}/template.svg?${query}`} download
            >SVG</a
          >
          <a
            class="btn btn-sm"
            href={`${base}/marks/${mount.key}/template.dxf?${query}&whole=true`}
            download>DXF</a
          >
        </span>
      {/if}
    </div>
    {#if mount.ready}
      <MountFacts {mount} />
    {/if}
  {/if}
  {#key mount.key}<MountFields key={mount.key} things={marks?.things ?? []} />{/key}
  <button class="btn btn-sm btn-ghost" onclick={() => job().remove(`marks.${mount.key}`)}
    >Take this mount off the list</button
  >
{:else if marks && !marks.wanting.length}
  <p class="quiet">
    Nothing to mount yet. <a href={`/jobs/${job().id}/fuel_path/train`}>Build the train</a> first.
  </p>
{/if}

<style>
  .bar,
  nav,
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
  }
  .bar {
    justify-content: space-between;
    margin: 0.3rem 0 0.6rem;
  }
  nav button[aria-pressed='true'] {
    border-color: var(--color-base-content) !important;
    font-weight: 700;
  }
  .stop {
    border-left: 3px solid var(--color-error);
    padding-left: 0.7rem;
    color: var(--color-error);
    font-weight: 600;
    margin: 0.3rem 0;
  }
  .open {
    border-left: 3px solid var(--color-primary);
    padding-left: 0.7rem;
  }
  a:not(.btn) {
    display: grid;
    grid-template-columns: 6.5rem 1fr;
    gap: 0.15rem 0.8rem;
  }
</style>
