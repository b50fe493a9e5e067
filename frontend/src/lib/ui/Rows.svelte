<script lang="ts">
  import { opens } from './focus';
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { Snippet } from 'svelte';
  import { at, newKey } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    path: string;
    prefix: string;
    title: string;
    text: string;
    add: string;
    fresh: unknown;
    row: Snippet<[string]>;
  }
  let { path, prefix, title, text, add, fresh, row }: Props = $props();
  const job = useJob();
  let entries = $derived((at(job().settled?.job, path) ?? {}) as Record<string, unknown>);
  let keys = $derived(
    Object.keys(entries).sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
  );
  let added = $state('');

  function another() {
    added = newKey(prefix, entries);
    job().set(`${path}.${added}`, fresh);
  }
</script>

<section class="section">
  <h2>{title}</h2>
  <p class="quiet -mt-[.3rem] mx-0 mb-[.6rem]">{text}</p>
  {#each keys as key, i (key)}
    <div class="entry" use:opens={key === added}>
      <div class="fields">{@render row(`${path}.${key}`)}</div>
      <button
        class="btn btn-ghost btn-sm"
        aria-label={`Remove ${title.toLowerCase()} ${i + 1}`}
        title="Remove (undo brings it back)"
        onclick={() => job().remove(`${path}.${key}`)}><Trash size={16} /></button
      >
    </div>
  {/each}
  <button class="btn btn-sm" onclick={another}>
    <Plus size={16} />{add}
  </button>
</section>

<style>
  .entry {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0.5rem;
    align-items: start;
    border-top: 1px dotted var(--rule);
    padding-top: 0.5rem;
  }
  .entry > .btn {
    margin-top: 1.5rem;
  }
</style>
