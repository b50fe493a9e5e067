<script lang="ts">
  import { QUICK } from '$lib/api/published';
  import Convert from '$lib/quick/Convert.svelte';
  import JointFinder from '$lib/quick/JointFinder.svelte';
  import Sound from '$lib/quick/Sound.svelte';
  import Plug from '$lib/quick/Plug.svelte';
  import Form from '$lib/quick/Form.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  const TEXTS: Record<string, string> = {
    'rpm-from-sound': 'How fast an engine turns, from a few seconds of its sound.',
    'joint-finder': 'What connects this end to that one, from the catalog.',
    plug: 'What a spark plug tells after a run near rating.',
    convert: 'Any quantity of the trade in its other units.'
  };
  const forms = createQuery(() => ({
    queryKey: ['quick', 'forms'],
    queryFn: () => ask(api.GET('/api/quick/forms')),
    staleTime: Infinity
  }));
  let form = $derived(forms.data?.find((one) => one.key === data.entry.name));
</script>

<svelte:head><title>Quick {data.entry.title.toLowerCase()} · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <header>
    <div>
      <h1>Quick {data.entry.title.toLowerCase()}</h1>
      <p class="quiet">{TEXTS[data.entry.name] ?? form?.text ?? ''} Nothing is saved.</p>
    </div>
    <nav aria-label="Quick answers">
      {#each QUICK as one (one.name)}
        <a
          href={`/quick/${one.name}`}
          aria-current={one.name === data.entry.name ? 'page' : undefined}>{one.title}</a
        >
      {/each}
    </nav>
  </header>
  {#if data.entry.name === 'joint-finder'}<JointFinder />
  {:else if data.entry.name === 'rpm-from-sound'}<Sound />
  {:else if data.entry.name === 'plug'}<Plug />
  {:else if data.entry.name === 'convert'}<Convert />
  {:else if form}{#key form.key}<Form {form} />{/key}{/if}
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 64rem) / 2)) 2rem;
    outline: none;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.5rem 2rem;
    margin-bottom: 1rem;
  }
  h1 {
    font-size: 1.45rem;
    font-weight: 700;
  }
  nav {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem;
    align-items: start;
  }
  nav a {
    padding: 0.3rem 0.7rem;
    color: var(--muted);
    font-weight: 550;
  }
  nav a[aria-current] {
    color: var(--color-base-content);
    box-shadow: inset 0 -2px 0 var(--color-primary);
    font-weight: 700;
  }
</style>
