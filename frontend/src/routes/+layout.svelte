<script lang="ts">
  import '../app.css';
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
  import { onMount, type Snippet } from 'svelte';
  import { page, updated } from '$app/state';
  import Working from '$lib/ui/Working.svelte';
  import { working } from '$lib/ui/working.svelte';
  import { afterNavigate, beforeNavigate, goto } from '$app/navigation';
  import { look } from '$lib/api/settled';
  import CodeDialog from '$lib/frame/CodeDialog.svelte';
  import Newer from '$lib/frame/Newer.svelte';
  import SignIn from '$lib/frame/SignIn.svelte';
  import { me } from '$lib/session/me.svelte';
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
  onMount(() => {
    document.getElementById('shell')?.remove();
    void me.load();
  });
  // An owner has a page of their own, and no other.
  let owner = $derived(me.told.person?.role === 'owner');
  $effect(() => {
    if (owner && !page.url.pathname.startsWith('/mine')) void goto('/mine');
  });
  beforeNavigate(({ willUnload, to }) => {
    working.close();
    // Of a newer server the next page is loaded whole; what was typed is kept by the browser.
    if (updated.current && !willUnload && to?.url) location.href = to.url.href;
  });
  afterNavigate(look);
</script>

<svelte:window {onkeydown} />

<QueryClientProvider {client}>
  <div class="page">
    <a class="skip" href="#sheet">To the sheet</a>
    {#if !page.url.pathname.endsWith('/bench')}<TopBar />{/if}
    {#if updated.current}<Newer />{/if}
    {#if me.outside}<SignIn />{:else}{@render children()}{/if}
  </div>
  <CodeDialog />
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
