<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import type { Judged } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { LETTERS } from '$lib/api/published';
  import SchoolReasons from '$lib/stages/method/SchoolReasons.svelte';

  interface Props {
    judged: Judged;
    recommended: boolean;
    choose: () => void;
  }
  let { judged, recommended, choose }: Props = $props();
  let open = $state(false);
  const ORDER = ['does_not_fit', 'not_known', 'fits_with_work', 'fits'];
  let reasons = $derived(
    [...judged.reasons].sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict))
  );
  let first = $derived(reasons.find((reason) => reason.verdict === judged.verdict)?.text ?? '');
  let count = $derived(reasons.filter((reason) => reason.verdict === judged.verdict).length);
</script>

<article class={judged.verdict} class:recommended data-school={judged.key}>
  <div class="line">
    <div class="what">
      <h3>
        {judged.name}
        {#if recommended}<span class="tag">recommended</span>{/if}
        {#if judged.chosen}<span class="tag chosen">chosen</span>{/if}
      </h3>
      <p class="verdict">
        <strong>{judged.verdict_name}</strong>
        <span class="quiet">{first}{count > 1 ? ` And ${count - 1} more.` : ''}</span>
      </p>
    </div>
    <div class="cell">
      {#if judged.output}
        <Mark fuel={judged.fuel} letter={LETTERS[judged.fuel] ?? ''} />
        <Figure figure={judged.output} />
      {/if}
    </div>
    <div class="cell">
      {#if judged.run}<Figure figure={judged.run} />{/if}
    </div>
    <div class="cell"><Figure figure={judged.parts} /></div>
    <div class="cell"><Figure figure={judged.hours} /></div>
    <div class="acts">
      <button
        class="btn btn-sm"
        class:btn-primary={recommended && !judged.chosen}
        title={judged.clash}
        onclick={choose}>{judged.chosen ? 'Remove' : judged.clash ? 'Swap' : 'Choose'}</button
      >
      <button
        class="btn btn-sm btn-ghost"
        aria-expanded={open}
        aria-label={`Reasons for ${judged.name}`}
        onclick={() => (open = !open)}><ChevronDown size={17} class={open ? 'flip' : ''} /></button
      >
    </div>
  </div>
  <p class="text-[.82rem] quiet">
    {judged.texts.choke === 'none' ? '' : `Choke ${judged.texts.choke}. `}Metering {judged.texts
      .metering}. {judged.texts.cannot_undo
      ? `Can't be undone: ${judged.texts.cannot_undo}.`
      : 'Can be wholly undone.'} Change-over: {judged.texts.change_over}.
  </p>
  {#if open}
    {#if judged.clash}<p class="text-[.82rem] text-warning">
        Not together with what is chosen. {judged.clash} Swap takes its place.
      </p>{/if}
    <SchoolReasons {judged} {reasons} />
  {/if}
</article>

<style>
  article {
    border-top: 1px solid var(--rule);
    padding: 0.5rem 0 0.55rem 0.75rem;
    border-left: 3px solid transparent;
  }
  .recommended {
    border-left-color: var(--color-primary);
    background: var(--tint);
  }
  .line {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 7rem 4.2rem 4.2rem 4.2rem 7.6rem;
    gap: 0.6rem;
    align-items: start;
  }
  h3 {
    font-weight: 650;
  }
  .tag {
    font-size: 0.75rem;
    font-weight: 650;
    color: var(--color-primary);
    margin-left: 0.35rem;
  }
  .tag.chosen {
    color: var(--color-success);
  }
  .verdict {
    font-size: 0.88rem;
  }
  .does_not_fit .verdict strong {
    color: var(--color-error);
  }
  .fits .verdict strong {
    color: var(--color-success);
  }
  .fits_with_work .verdict strong,
  .not_known .verdict strong {
    color: var(--color-warning);
  }
  .cell {
    display: flex;
    gap: 0.3rem;
    justify-content: flex-end;
    align-items: center;
    min-height: 1.6rem;
  }
  .acts {
    display: flex;
    justify-content: flex-end;
  }
  .more {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 1.4rem;
    padding: 0.5rem 0;
    font-size: 0.9rem;
  }
  article :global(.flip) {
    rotate: 180deg;
  }
  @media (max-width: 700px) {
    .line {
      grid-template-columns: 1.7fr 1fr 1fr 1fr;
      gap: 0.3rem;
    }
    .what {
      grid-column: 1 / -1;
    }
    .cell {
      justify-content: flex-start;
    }
    .acts {
      grid-column: 1 / -1;
    }
    .more {
      grid-template-columns: 1fr;
    }
  }
</style>
