<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';
  import { initials, prefs } from '$lib/session/prefs.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { forgetReference, useReference } from '$lib/session/reference';

  const client = useQueryClient();
  const reference = useReference();
  let open = $state(false);
  let name = $state('');
  let wrong = $state('');
  let people = $derived(reference.data?.people ?? []);
  let signed = $derived(me.told.person);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const wanted = name.trim();
    if (!wanted) return;
    wrong = '';
    try {
      await ask(api.PUT('/api/people', { body: { name: wanted, units: prefs.system } }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      wrong = error.message;
      return;
    }
    await forgetReference(client);
    prefs.be(wanted);
    name = '';
    open = false;
  }

  async function leave() {
    open = false;
    await me.signOut();
    client.clear();
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
  {#if signed}
    <h2 id="who-title">{signed.name}</h2>
    <p class="quiet">{signed.role_name}. Signed in on this device.</p>
    <div class="flex flex-wrap gap-2 mt-3">
      <button class="btn btn-primary" onclick={leave}>Sign out</button>
      <a class="btn" href="/people" onclick={() => (open = false)}>
        {me.may('people') ? 'People and sign-ins' : 'My sign-ins and secrets'}
      </a>
    </div>
  {:else}
    <form onsubmit={add}>
      <h2 id="who-title">Who is working?</h2>
      <p class="quiet">The name goes with every change and signature.</p>
      <div class="people">
        {#each people as person (person.name)}
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
      {#if people.length}
        <p>
          Somebody else works here too? <a
            class="underline"
            href="/people"
            onclick={() => (open = false)}>Let them in on the page People</a
          >: from then on each signs in.
        </p>
      {:else}
        <label for="who-name">Your name</label>
        <div class="flex gap-2">
          <input
            id="who-name"
            class="input"
            bind:value={name}
            maxlength="120"
            autocomplete="off"
            aria-invalid={wrong !== ''}
          />
          <button class="btn btn-primary">That's me</button>
        </div>
        <p class="text-error font-semibold" role="alert">{wrong}</p>
      {/if}
    </form>
  {/if}
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
