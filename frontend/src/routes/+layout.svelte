<script lang="ts">
  import '../app.css';
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
  import { onMount, type Snippet } from 'svelte';
  import { page } from '$app/state';
  import Working from '$lib/ui/Working.svelte';
  import { working } from '$lib/ui/working.svelte';
  import { afterNavigate, beforeNavigate } from '$app/navigation';
  import { look } from '$lib/api/settled';
  import Finder from '$lib/frame/Finder.svelte';
  import { onkeydown } from '$lib/frame/keys';
  import Keys from '$lib/frame/Keys.svelte';
  import TopBar from '$lib/frame/TopBar.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  let { children }: { children: Snippet } = $props();
  const client = new QueryClient({
    defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: true, staleTime: 2000 } }
  });

  $effect(() => {
    document.documentElement.dataset.theme = prefs.theme;
  });
  onMount(() => document.getElementById('shell')?.remove());
  beforeNavigate(() => working.close());
  afterNavigate(look);
</script>

<svelte:window {onkeydown} />

<QueryClientProvider {client}>
  <div class="page">
    <a class="skip" href="#sheet">To the sheet</a>
    {#if !page.url.pathname.endsWith('/bench')}<TopBar />{/if}
    {@render children()}
  </div>
  <Working />
  <Finder />
  <Keys />
</QueryClientProvider>

<style>
  .page {
    height: 100dvh;
    display: flex;
    flex-direction: column;
  }
  .skip {
    position: absolute;
    top: -4rem;
    left: 1rem;
    z-index: 10;
    background: var(--color-base-100);
    padding: 0.5rem 1rem;
  }
  .skip:focus {
    top: 0.4rem;
  }
</style>
