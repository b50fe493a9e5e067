<script lang="ts">
  import Archive from '@lucide/svelte/icons/archive';
  import ArchiveRestore from '@lucide/svelte/icons/archive-restore';
  import Copy from '@lucide/svelte/icons/copy';
  import type { BoardRow } from '$lib/api/client';
  import { LETTERS } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';
  import Mark from '$lib/ui/Mark.svelte';

  interface Props {
    row: BoardRow;
    /** Where a job is opened at; at its first page where none is told. */
    place?: string;
    archived: boolean;
    oncopy: () => void;
    onarchive: () => void;
  }
  let { row, place = '', archived, oncopy, onarchive }: Props = $props();
  let when = $derived(
    new Date(row.updated_at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })
  );
</script>

<li>
  <a href={`/jobs/${row.id}${place}`}>
    <span class="title">{row.title}</span>
    <span class="quiet text-[.87rem]">
      {[row.set_label, row.running?.[prefs.system], row.site_label].filter(Boolean).join(' · ')}
    </span>
  </a>
  <span class="fuels" role="img" aria-label={`Fuels: ${row.fuels.join(', ')}`}>
    {#each row.fuels as fuel (fuel)}<Mark {fuel} letter={LETTERS[fuel] ?? ''} />{/each}
  </span>
  <span class="stage">
    {row.stage}
    {#if row.stops}<strong class="text-error">{row.stops} stop{row.stops > 1 ? 's' : ''}</strong>
    {:else if row.questions}<span class="quiet">{row.questions} open</span>{/if}
  </span>
  <span class="quiet when num">{when}</span>
  <span class="acts">
    <button
      class="btn btn-ghost btn-sm"
      aria-label={`Copy ${row.title}`}
      title="Copy"
      onclick={oncopy}
    >
      <Copy size={16} />
    </button>
    <button
      class="btn btn-ghost btn-sm"
      aria-label={archived ? `Bring back ${row.title}` : `Archive ${row.title}`}
      title={archived ? 'Bring back' : 'Archive'}
      onclick={onarchive}
    >
      {#if archived}<ArchiveRestore size={16} />{:else}<Archive size={16} />{/if}
    </button>
  </span>
</li>

<style>
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 7rem 9rem 4.5rem auto;
    gap: 0.8rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.35rem 0;
  }
  li:hover {
    background: var(--color-base-100);
  }
  .title {
    font-weight: 650;
    display: block;
  }
  a:hover .title {
    text-decoration: underline;
  }

  .fuels {
    display: flex;
    gap: 0.25rem;
  }
  .when {
    font-size: 0.85rem;
    text-align: right;
  }

  .stage {
    line-height: 1.2;
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 0.2rem 0.6rem;
    }
    .fuels {
      justify-content: end;
    }
    .when {
      display: none;
    }
    .acts {
      justify-self: end;
    }
    .stage {
      font-size: 0.87rem;
    }
  }
</style>
