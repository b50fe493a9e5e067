<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';
  import { takes } from '$lib/ui/focus';

  const client = useQueryClient();
  const feed = createQuery(() => ({
    queryKey: ['feed'],
    queryFn: () => ask(api.GET('/api/feed'))
  }));
  let address = $derived(feed.data?.addresses ?? []);

  let trouble = $state('');
  /** A button was pressed that is gone then: the one in its place takes the keyboard. */
  let begun = $state(false);
  async function keep(asked: Promise<unknown>) {
    trouble = '';
    begun = true;
    try {
      client.setQueryData(['feed'], await asked);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }
  const begin = () => keep(ask(api.POST('/api/feed')));
  const end = () => keep(ask(api.DELETE('/api/feed')));
</script>

{#if feed.data}
  <section class="section" data-feed>
    <h2>In a calendar</h2>
    {#if address.length}
      <p class="quiet">
        A calendar that is given this address shows what is due and keeps itself current. Whoever
        has it sees that, and nothing else.
      </p>
      {#each address as one (one)}<p><code>{one}</code></p>{/each}
      {#if !feed.data.network}
        <p class="quiet">The shop is served on this machine only: other devices do not reach it.</p>
      {/if}
      <div class="spans">
        <button class="btn btn-sm" use:takes={begun} onclick={() => void begin()}
          >Another address</button
        >
        <button class="btn btn-sm" onclick={() => void end()}>End it</button>
      </div>
    {:else}
      <button class="btn btn-sm" use:takes={begun} onclick={() => void begin()}
        >Make a private address</button
      >
    {/if}
    {#if trouble}<p class="says wrong" role="alert">{trouble}</p>{/if}
  </section>
{/if}

<style>
  code {
    overflow-wrap: anywhere;
    font-size: 0.85rem;
  }
  .spans {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin: 0.8rem 0;
  }
</style>
