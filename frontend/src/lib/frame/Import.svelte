<script lang="ts">
  import { goto } from '$app/navigation';
  import type { ProblemBody } from '$lib/api/client';
  import { counted } from '$lib/api/settled';
  import { prefs } from '$lib/session/prefs.svelte';

  let trouble = $state('');
  let unearned = $state<{ file: File; texts: string[] }>();

  async function importFile(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (file) await takeIn(file, false);
    input.value = '';
  }

  /** What does not pass the gate is told, and the job comes in without it only when asked to. */
  async function takeIn(file: File, without: boolean) {
    trouble = '';
    unearned = undefined;
    const query = `who=${encodeURIComponent(prefs.who)}${without ? '&take_back=yes' : ''}`;
    try {
      const answer = await counted(`/api/import?${query}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/zip' },
        body: file
      });
      const body = (await answer.json()) as ProblemBody & { id: string };
      if (answer.ok) await goto(`/jobs/${body.id}`);
      else if (body.type === '/problems/unearned')
        unearned = { file, texts: [...new Set((body.errors ?? []).map((one) => one.message))] };
      else trouble = `${file.name}: ${body.detail}`;
    } catch {
      trouble = `${file.name} was not read: the server does not answer. Nothing was changed.`;
    }
  }
</script>

<label class="btn">Import<input class="sr" type="file" accept=".zip" onchange={importFile} /></label
>
{#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
{#if unearned}
  <div class="trouble" role="alert" data-unearned>
    <p><strong>{unearned.file.name}</strong> holds what this job does not allow yet:</p>
    <ul>
      {#each unearned.texts.slice(0, 12) as text (text)}<li>{text}</li>{/each}
      {#if unearned.texts.length > 12}<li>and {unearned.texts.length - 12} more</li>{/if}
    </ul>
    <button class="btn btn-sm" onclick={() => unearned && void takeIn(unearned.file, true)}
      >Take it in without these signatures and readings</button
    >
    <button class="btn btn-sm btn-ghost" onclick={() => (unearned = undefined)}>Leave it</button>
  </div>
{/if}

<style>
  .trouble {
    order: 9;
    flex: 0 0 100%;
    border-left: 3px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.5rem 0.8rem;
  }
</style>
