<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, ask, Refusal } from '$lib/api/client';
  import { writeKey } from '$lib/session/outbox';
  import { prefs } from '$lib/session/prefs.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';

  interface Props {
    open: boolean;
    onclose: () => void;
  }
  let { open, onclose }: Props = $props();
  let title = $state('');
  let trouble = $state('');
  // Sent again after no answer, the job is made once.
  const key = writeKey();

  async function create(event: SubmitEvent) {
    event.preventDefault();
    trouble = '';
    try {
      const body = { title: title.trim() || 'New job', key, who: prefs.who };
      const made = await ask(api.POST('/api/jobs', { body }));
      await goto(`/jobs/${made.id}/intake/set?field=set.running`);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }
</script>

<Dialog {open} labelledby="new-title" width="narrow" {onclose}>
  <form onsubmit={create}>
    <h2 id="new-title">New job</h2>
    <label for="new-name">What do you call it?</label>
    <input
      id="new-name"
      class="input"
      bind:value={title}
      maxlength="120"
      placeholder="Whose set, or where it runs"
      autocomplete="off"
    />
    {#if trouble}<p class="text-error" role="alert">{trouble}</p>{/if}
    <div class="flex flex-wrap gap-2 justify-end mt-4">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary">Open it</button>
    </div>
  </form>
</Dialog>
