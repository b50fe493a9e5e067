<script lang="ts">
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    /** Where the service reads and writes them, below the job. */
    file: string;
    /** Where the job keeps them. */
    at: string;
    /** What a file holds. */
    words: string;
  }
  let { file: address, at, words }: Props = $props();
  const job = useJob();
  let faults = $state<string[]>([]);
  let place = $derived(`/api/jobs/${job().id}/${address}/readings.csv?system=${prefs.system}`);

  async function load(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (!file) return;
    faults = [];
    try {
      const answer = await fetch(place, {
        method: 'POST',
        headers: { 'Content-Type': 'text/csv' },
        body: file
      });
      const told: unknown = await answer.json();
      if (answer.ok) keep((told as { readings: unknown[] }).readings);
      else faults = (told as { errors: { message: string }[] }).errors.map((one) => one.message);
    } catch {
      faults = [`${file.name} was not read: the server does not answer. Nothing was changed.`];
    }
    input.value = '';
  }

  function keep(readings: unknown[]) {
    const first = freshKey('c');
    job().setAll(readings.map((value, i) => ({ path: `${at}.${first}-${i}`, value })));
  }
</script>

<p class="file">
  <a class="btn btn-sm" href={place} download>Save readings (CSV)</a>
  <label class="btn btn-sm"
    >Load readings<input class="sr" type="file" accept=".csv,text/csv" onchange={load} /></label
  >
  <span class="quiet">{words}; with units or without</span>
</p>
{#if faults.length}
  <ul class="wrong" role="alert">
    {#each faults as text, i (i)}<li>{text}</li>{/each}
  </ul>
{/if}

<style>
  .file {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.7rem;
    align-items: center;
    margin: 0.4rem 0;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>
