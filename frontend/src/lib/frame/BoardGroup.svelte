<script lang="ts">
  import { type BoardRow } from '$lib/api/client';
  import BoardRowLine from '$lib/frame/BoardRow.svelte';
  import type { components } from '$lib/api/schema';

  type Group = components['schemas']['BoardGroupOut'];
  interface Props {
    group: Group;
    archived: boolean;
    copy: (row: BoardRow) => void;
    archive: (row: BoardRow) => void;
    more: () => void;
  }
  let { group, archived, copy, archive, more }: Props = $props();
</script>

<section class="mt-[1.2rem]" aria-labelledby={`g-${group.waits_for}`}>
  <h2 class="font-bold mb-[.2rem]" id={`g-${group.waits_for}`}>
    {group.waits_for === 'nothing'
      ? 'Ready to work on'
      : group.waits_for === 'in_service'
        ? group.label
        : `Waits for ${group.label}`}
    <span class="quiet num">{group.count}</span>
  </h2>
  <ul>
    {#each group.rows as row (row.id)}
      <BoardRowLine
        {row}
        place={group.waits_for === 'in_service' ? '/logbook/runs' : ''}
        oncopy={() => copy(row)}
        onarchive={() => archive(row)}
        {archived}
      />
    {/each}
  </ul>
  {#if group.count > group.rows.length}
    <button class="btn btn-sm btn-ghost" onclick={more}>
      {group.count - group.rows.length} more
    </button>
  {/if}
</section>
