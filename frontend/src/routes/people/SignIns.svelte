<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';

  interface Props {
    /** Everybody's, or one's own alone. */
    all: boolean;
  }
  let { all }: Props = $props();
  const client = useQueryClient();
  let key = $derived(['sign-ins', all]);
  const found = createQuery(() => ({
    queryKey: key,
    queryFn: async () =>
      all
        ? (await ask(api.GET('/api/people'))).sign_ins
        : (await ask(api.GET('/api/me/sign-ins'))).sign_ins,
    enabled: me.told.person !== null
  }));
  const day = (text: string) =>
    new Date(text).toLocaleString('en-US', { dateStyle: 'medium', timeStyle: 'short' });

  async function end(id: number) {
    const params = { path: { id } };
    const now = await ask(api.DELETE('/api/me/sign-ins/{id}', { params }));
    client.setQueryData(key, now.sign_ins);
    await me.load();
  }
</script>

{#if found.data?.length}
  <section class="section" aria-labelledby="sign-ins">
    <h2 id="sign-ins">Signed in now</h2>
    <ul>
      {#each found.data as one (one.id)}
        <li class="ruled flex flex-wrap gap-x-4 gap-y-1 items-center py-1.5" data-sign-in={one.id}>
          <b>{one.name}</b>
          <span>on {one.device}{one.here ? ', here' : ''}</span>
          <span class="quiet flex-1">since {day(one.since)}, seen last {day(one.seen)}</span>
          <button class="btn btn-sm" onclick={() => end(one.id)}>Sign out</button>
        </li>
      {/each}
    </ul>
    <p class="quiet">
      A sign-in ends by itself after twelve hours away, and after a week in any case. Paired phones
      are on <a class="underline" href="/pair">Pair a phone</a>.
    </p>
  </section>
{/if}
