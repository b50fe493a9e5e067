<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';
  import SecretField from './SecretField.svelte';
  import Secrets from './Secrets.svelte';

  const client = useQueryClient();
  let told = $derived(me.told);
  let invited = $state(false);
  let name = $state(me.told.person?.name ?? '');
  let secret = $state('');
  let invitation = $state('');
  let wrong = $state('');
  let way = $derived(/^\d{6,10}$/.test(secret) ? 'code' : 'passphrase');
  let title = $derived(
    !told.led ? 'Who leads this shop?' : invited ? 'Come in by invitation' : 'Sign in'
  );

  async function come(call: Promise<typeof told>) {
    wrong = '';
    try {
      me.take(await call);
      await client.invalidateQueries();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      wrong = error.message;
      secret = '';
    }
  }

  const first = (passphrase: string, code: string) =>
    come(ask(api.POST('/api/me/first', { body: { name, passphrase, code } })));
  const comeIn = (passphrase: string, code: string) =>
    come(ask(api.POST('/api/me/come-in', { body: { invitation, passphrase, code } })));

  function signIn(event: SubmitEvent) {
    event.preventDefault();
    const body = { name, passphrase: '', code: '', [way]: secret };
    void come(ask(api.POST('/api/me/sign-in', { body })));
  }
</script>

<svelte:head><title>{title} · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <div class="card-in">
    <h1>{title}</h1>
    {#if !told.led && !told.at_home}
      <p>
        Somebody says so on the shop's own machine first: open this page there, and give yourself a
        passphrase. Then everybody else is invited.
      </p>
    {:else if !told.led}
      <p class="quiet">
        Phones or a second person work with this shop now, so that everybody signs in and each
        signature is of whoever made it. The lead invites the others.
      </p>
      {@render named()}
      <Secrets keep={first} label="Lead this shop" {wrong} ready={name.trim() !== ''} />
    {:else if invited}
      <p class="quiet">The lead of the shop gave you an invitation: it is good for one day.</p>
      <label for="invitation">Invitation</label>
      <input
        id="invitation"
        class="input w-full num"
        bind:value={invitation}
        placeholder="a1b2-c3d4-e5f6-0789"
        autocomplete="off"
      />
      <Secrets keep={comeIn} label="Come in" {wrong} ready={invitation.trim() !== ''} />
      <button class="btn btn-ghost btn-sm self-start" onclick={() => (invited = false)}
        >Sign in by name instead</button
      >
    {:else}
      <form onsubmit={signIn}>
        {@render named()}
        <SecretField
          label="Passphrase, or code"
          bind:value={secret}
          autocomplete="current-password"
        />
        <p class="text-error font-semibold" role="alert">{wrong}</p>
        <button class="btn btn-primary mt-2" disabled={!name.trim() || !secret}>Sign in</button>
      </form>
      <button class="btn btn-ghost btn-sm self-start" onclick={() => (invited = true)}
        >I have an invitation</button
      >
    {/if}
  </div>
</main>

{#snippet named()}
  {#if told.names.length}
    <div class="flex flex-wrap gap-2 my-3" role="group" aria-label="Who you are">
      {#each told.names as one (one)}
        <button
          type="button"
          class="btn btn-sm"
          class:btn-neutral={one === name}
          aria-pressed={one === name}
          onclick={() => (name = one)}>{one}</button
        >
      {/each}
    </div>
  {/if}
  <label for="sign-name">Name</label>
  <input
    id="sign-name"
    class="input w-full"
    autocomplete="username"
    maxlength="120"
    bind:value={name}
  />
{/snippet}

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 6vh 1rem 2rem;
  }
  .card-in {
    max-width: 27rem;
    margin: 0 auto;
    display: flex;
    flex-direction: column;
    gap: 0.5rem;
  }
  h1 {
    font-size: 1.5rem;
    font-weight: 700;
  }
</style>
