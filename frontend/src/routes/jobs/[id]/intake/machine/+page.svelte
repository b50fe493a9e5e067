<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import AskField from '$lib/stages/intake/AskField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import { page } from '$app/state';
  import { tick } from 'svelte';
  import SetDrawing from '$lib/stages/intake/SetDrawing.svelte';
  import Switches from '$lib/stages/intake/Switches.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import InTheWay from '$lib/stages/intake/InTheWay.svelte';
  import Faces from '$lib/stages/intake/Faces.svelte';

  const job = useJob();
  let walk = $derived(job().now?.walk ?? job().settled?.walk);
  let chosen = $state('');
  let places = $derived(
    (walk?.groups ?? []).map(({ key, title, asks }) => ({
      key,
      title,
      answered: asks.filter((one) => one.answered).length,
      total: asks.length
    }))
  );
  /** The place walked to; else the first with something not known. */
  let here = $derived(chosen || (places.find((one) => one.answered < one.total) ?? places[0])?.key);

  // Led here by a field's name: its place is the one to show.
  $effect(() => {
    const wanted = page.url.searchParams.get('field');
    const place = walk?.groups.find((one) => one.asks.some((ask) => ask.path === wanted));
    if (place) chosen = place.key;
  });

  async function walkTo(key: string) {
    chosen = key;
    await tick();
    const place = document.getElementById(`place-${key}`);
    place?.scrollIntoView({ block: 'start' });
    place?.querySelector<HTMLElement>('input, select, textarea, [role=radio]')?.focus({
      preventScroll: true
    });
  }
</script>

<SheetHead
  title="At the machine"
  text={walk
    ? `${walk.answered} of ${walk.total} known. Only what matters for this set, in walking order.`
    : ''}
/>

{#if walk}
  <div class="round">
    <SetDrawing
      setClass={job().settled?.job.set.set_class ?? 'open_frame'}
      {places}
      here={here ?? ''}
      go={(key) => walkTo(key)}
    />
    <ol class="legend">
      {#each places as place, at (place.key)}
        <li class:here={place.key === here}>
          <button type="button" onclick={() => walkTo(place.key)}>
            <span class="num">{at + 1}</span>
            {place.title} <span class="quiet num">{place.answered}/{place.total}</span>
          </button>
        </li>
      {/each}
    </ol>
  </div>
{/if}

{#each walk?.groups ?? [] as group, at (group.key)}
  <section class="section first place" class:here={group.key === here} id={`place-${group.key}`}>
    <div class="flex justify-between items-center gap-4">
      <h2>{group.title}</h2>
      {#if group.key !== 'history'}
        <Photos subject={`machine.${group.key}`} label={group.title} />
      {/if}
    </div>
    <div class="grid-3">
      {#each group.asks as ask (ask.path)}<AskField {ask} />{/each}
    </div>
    {#if walk?.groups[at + 1]}
      <p class="quiet on">What is not known stays a question.</p>
      <button type="button" class="btn on" onclick={() => walkTo(walk?.groups[at + 1]?.key ?? '')}>
        Next: {walk.groups[at + 1]?.title.toLowerCase()}
      </button>
    {/if}
  </section>
{/each}

{#if walk}
  <Switches />
  <InTheWay />
  <Faces />
{/if}

<style>
  h2 {
    font-size: 1.1rem;
    font-weight: 700;
  }
  .round {
    display: grid;
    grid-template-columns: minmax(0, 23rem) minmax(11rem, 1fr);
    gap: 0.5rem 1.2rem;
    align-items: center;
  }
  .legend button {
    display: block;
    width: 100%;
    text-align: left;
    padding: 0.25rem 0.5rem;
    border-radius: 0.375rem;
  }
  .legend .here button {
    background: var(--tint);
    font-weight: 650;
  }
  .place {
    scroll-margin-top: 5rem;
  }
  .on {
    display: none;
  }
  @media (max-width: 700px) {
    .round {
      grid-template-columns: 1fr;
    }
    /* One place at a time: the drawing is the way from one to the next. */
    .legend,
    .place:not(.here) {
      display: none;
    }
    .on {
      display: block;
      width: 100%;
      margin-top: 0.4rem;
    }
    .btn.on {
      height: auto;
      min-height: 3rem;
      white-space: normal;
    }
  }
  .first:first-of-type {
    border-top: 0;
    padding-top: 0;
    margin-top: 0;
  }
</style>
