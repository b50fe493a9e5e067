<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { page } from '$app/state';
  import { api, ask } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { faults } from './faults';

  const id = $props.id();
  let text = $state(page.url.searchParams.get('q') ?? '11 in w.c.');
  let chosen = $state('');
  let body = $derived({ text, kind: chosen, system: prefs.system });
  const answer = createQuery(() => ({
    queryKey: ['quick', 'convert', body],
    queryFn: () => ask(api.POST('/api/quick/convert', { body })),
    enabled: text.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error).text ?? '');
</script>

<div class="field max-w-88" data-quick="text">
  <label for={id}>A quantity with its unit</label>
  <input
    {id}
    class="input num"
    class:input-error={wrong}
    bind:value={text}
    oninput={() => (chosen = '')}
    autocomplete="off"
    spellcheck="false"
  />
  <p class="says" class:wrong aria-live="polite">{wrong || '\u00a0'}</p>
</div>

{#if answer.data && !wrong && text.trim()}
  {#if answer.data.kinds.length > 1}
    <div class="flex flex-wrap items-center gap-[.4rem]" role="group" aria-label="What it is">
      <span class="quiet">It may be</span>
      {#each answer.data.kinds as one (one.value)}
        <button
          class="btn btn-sm"
          class:btn-neutral={one.value === answer.data.kind}
          aria-pressed={one.value === answer.data.kind}
          onclick={() => (chosen = one.value)}>{one.text}</button
        >
      {/each}
    </div>
  {/if}
  <ul>
    {#each answer.data.rows as row (row.key)}<li><Figure figure={row} size="big" /></li>{/each}
  </ul>
{/if}

<style>
  ul {
    max-width: 22rem;
  }
  li {
    display: flex;
    justify-content: end;
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0;
  }
</style>
