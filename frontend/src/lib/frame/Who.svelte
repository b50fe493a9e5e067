<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { initials, prefs } from '$lib/session/prefs.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { forgetReference, useReference } from '$lib/session/reference';

  const client = useQueryClient();
  const reference = useReference();
  let open = $state(false);
  let name = $state('');

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const wanted = name.trim();
    if (!wanted) return;
    await ask(api.PUT('/api/people', { body: { name: wanted, units: prefs.system } }));
    await forgetReference(client);
    prefs.be(wanted);
    name = '';
    open = false;
  }
</script>

<button
  class="who"
  aria-label={prefs.who ? `You are ${prefs.who}. Change` : 'Say who you are'}
  onclick={() => (open = true)}
>
  {prefs.who ? initials(prefs.who) : 'Who?'}
</button>

<Dialog {open} labelledby="who-title" width="narrow" onclose={() => (open = false)}>
  <form onsubmit={add}>
    <h2 id="who-title">Who is working?</h2>
    <p class="quiet">The name goes with every change and signature.</p>
    <div class="people">
      {#each reference.data?.people ?? [] as person (person.name)}
        <button
          type="button"
          class="btn btn-sm"
          aria-pressed={person.name === prefs.who}
          onclick={() => {
            prefs.be(person.name, person.units);
            open = false;
          }}
        >
          {person.name}
        </button>
      {/each}
    </div>
    <label for="who-name">Somebody else</label>
    <div class="flex gap-2">
      <input id="who-name" class="input" bind:value={name} maxlength="120" autocomplete="off" />
      <button class="btn btn-primary">That's me</button>
    </div>
  </form>
</Dialog>

<style>
  .who {
    border: 1px solid var(--rule);
    background: var(--color-base-100);
    border-radius: 0.375rem;
    min-width: 2.1rem;
    height: 1.9rem;
    padding: 0 0.4rem;
    font-size: 0.85rem;
    font-weight: 650;
    cursor: pointer;
    flex: none;
  }
  .people {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    margin: 0.8rem 0;
  }
</style>
