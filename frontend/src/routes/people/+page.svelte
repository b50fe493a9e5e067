<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal, type Everybody } from '$lib/api/client';
  import type { components } from '$lib/api/schema';
  import Secrets from '$lib/frame/Secrets.svelte';
  import { me } from '$lib/session/me.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import Invite from './Invite.svelte';
  import Member from './Member.svelte';
  import MySecrets from './MySecrets.svelte';
  import SignIns from './SignIns.svelte';

  type MemberIn = components['schemas']['MemberIn'];
  const client = useQueryClient();
  const found = createQuery(() => ({
    queryKey: ['people'],
    queryFn: () => ask(api.GET('/api/people')),
    enabled: me.may('people'),
    retry: false
  }));
  let name = $state(prefs.who);
  let wrong = $state('');
  let trouble = $state('');
  let invitation = $state<{ name: string; token: string }>();
  let here = $derived(found.data?.people.filter((one) => !one.left) ?? []);
  let left = $derived(found.data?.people.filter((one) => one.left) ?? []);

  /** Keep what came back, or say why nothing did. */
  async function act(work: Promise<Everybody>): Promise<Everybody | undefined> {
    trouble = '';
    try {
      const now = await work;
      client.setQueryData(['people'], { ...now, invitation: '' });
      return now;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }

  async function lead(passphrase: string, code: string) {
    wrong = '';
    try {
      me.take(await ask(api.POST('/api/me/first', { body: { name, passphrase, code } })));
      await client.invalidateQueries();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      wrong = error.message;
    }
  }

  async function invite(who: string, role: Everybody['roles'][number]['key']) {
    const now = await act(ask(api.POST('/api/people', { body: { name: who, role, sets: null } })));
    if (!now) return false;
    invitation = { name: who, token: now.invitation ?? '' };
    // With a second person everybody signs in, this device too.
    void me.load();
    return true;
  }

  const put = (id: number, body: Partial<MemberIn>) => {
    const whole = { role: null, left: null, sets: null, ...body };
    return act(ask(api.PUT('/api/people/{id}', { params: { path: { id } }, body: whole })));
  };
</script>

<svelte:head><title>People · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>People</h1>
  {#if trouble}<p class="text-error font-semibold" role="alert">{trouble}</p>{/if}
  {#if !me.told.led}
    <section class="section narrow" aria-labelledby="lead">
      <h2 id="lead">Who leads this shop</h2>
      <p class="quiet">
        One person works here without signing in. Before others come in, whoever leads the shop
        gives themselves a passphrase: from then on each signature is of whoever made it.
      </p>
      <label for="lead-name">Name</label>
      <input
        id="lead-name"
        class="input"
        bind:value={name}
        maxlength="120"
        autocomplete="username"
      />
      <Secrets keep={lead} label="Lead this shop" {wrong} ready={name.trim() !== ''} />
    </section>
  {:else}
    {#if found.data}
      <section class="section" aria-label="Who works here">
        <ul class="rows">
          {#each here as one (one.id)}
            <Member {one} roles={found.data.roles} {put} again={() => invite(one.name, one.role)} />
          {/each}
        </ul>
      </section>
      <Invite roles={found.data.roles} {invite} />
      {#if invitation}
        <section class="section told" role="status" data-invitation>
          <p>Tell {invitation.name}, and nobody else:</p>
          <p class="num token">{invitation.token}</p>
          <p class="quiet">
            Good for one day. They choose “I have an invitation” where signing in is asked, then a
            passphrase and a code of their own. It is shown this once.
          </p>
        </section>
      {/if}
      {#if left.length}
        <section class="section" aria-labelledby="left">
          <h2 id="left">No longer here</h2>
          <p class="quiet">
            What they did and signed stays in the jobs. {left.map((one) => one.name).join(', ')}.
          </p>
        </section>
      {/if}
    {/if}
    <SignIns all={me.may('people')} />
    {#if me.told.person}<MySecrets />{/if}
  {/if}
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.2rem 1.4rem 3rem;
    max-width: 62rem;
    width: 100%;
    margin: 0 auto;
  }
  h1 {
    font-size: 1.5rem;
    font-weight: 700;
  }
  .narrow {
    max-width: 27rem;
    display: flex;
    flex-direction: column;
    gap: 0.5rem;
  }
  .told {
    border-left: 4px solid var(--color-primary);
    background: var(--tint);
    padding: 0.7rem 1rem;
  }
  .token {
    font-size: 1.5rem;
    font-weight: 700;
    letter-spacing: 0.04em;
  }
</style>
