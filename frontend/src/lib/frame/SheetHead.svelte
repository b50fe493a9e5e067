<script lang="ts">
  import type { Snippet } from 'svelte';
  import { page } from '$app/state';
  import { PAGES } from '$lib/api/published';

  interface Props {
    title: string;
    text?: string;
    children?: Snippet;
  }
  let { title, text = '', children }: Props = $props();
  let here = $derived(page.url.pathname.split('/').slice(3).join('/'));
  let stage = $derived(here.split('/')[0]);
  let tabs = $derived(PAGES.filter((entry) => entry.stage === stage && entry.tab));
</script>

<header>
  <div>
    <h1>{title}</h1>
    {#if text}<p class="quiet">{text}</p>{/if}
  </div>
  <div class="side">
    {@render children?.()}
    {#if tabs.length > 1}
      <nav aria-label="Pages of this stage">
        {#each tabs as tab (tab.page)}
          <a
            href={`/jobs/${page.params.id}/${tab.page}`}
            aria-current={tab.page === here ? 'page' : undefined}>{tab.name}</a
          >
        {/each}
      </nav>
    {/if}
  </div>
</header>

<style>
  header {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.5rem 1.5rem;
    margin-bottom: 0.9rem;
  }
  h1 {
    font-size: 1.45rem;
    font-weight: 700;
    line-height: 1.2;
  }
  .side {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.6rem;
    align-items: start;
  }
  nav {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem;
  }
  nav a {
    padding: 0.3rem 0.7rem;
    white-space: nowrap;
    border-radius: 0.375rem;
    font-weight: 550;
    color: var(--muted);
  }
  nav a:hover {
    background: var(--color-base-300);
  }
  nav a[aria-current] {
    color: var(--color-base-content);
    box-shadow: inset 0 -2px 0 var(--color-primary);
    border-radius: 0.375rem 0.375rem 0 0;
    font-weight: 700;
  }
</style>
