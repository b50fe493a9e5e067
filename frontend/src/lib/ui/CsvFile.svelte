<script lang="ts">
  import { counted } from '$lib/api/settled';
  interface Props {
    /** Where the service writes and reads it. */
    place: string;
    /** What is in it, as it stands on the buttons. */
    what: string;
    /** What a file holds, said beside them. */
    words: string;
    /** Keeps what was read, and says what came of it. */
    keep: (read: unknown) => string;
  }
  let { place, what, words, keep }: Props = $props();
  const MOST = 12;
  let said = $state('');
  let faults = $state<string[]>([]);

  async function load(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (!file) return;
    faults = [];
    said = '';
    try {
      const headers = { 'Content-Type': 'text/csv' };
      const answer = await counted(place, { method: 'POST', headers, body: file });
      const told: unknown = await answer.json();
      if (answer.ok) said = keep(told);
      else faults = (told as { errors: { message: string }[] }).errors.map((one) => one.message);
    } catch {
      faults = [`${file.name} was not read: the server does not answer. Nothing was changed.`];
    }
    input.value = '';
  }
</script>

<p class="file">
  <a class="btn btn-sm" href={place} download>Save {what} (CSV)</a>
  <label class="btn btn-sm"
    >Load {what}<input class="sr" type="file" accept=".csv,text/csv" onchange={load} /></label
  >
  <span class="quiet" role="status">{said || words}</span>
</p>
{#if faults.length}
  <ul class="wrong" role="alert">
    {#each faults.slice(0, MOST) as text, i (i)}<li>{text}</li>{/each}
    {#if faults.length > MOST}<li>and {faults.length - MOST} more</li>{/if}
  </ul>
{/if}

<style>
  .file {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-top: 0.8rem;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>
