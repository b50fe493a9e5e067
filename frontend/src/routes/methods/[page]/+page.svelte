<script lang="ts">
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
</script>

<svelte:head><title>{data.method.title} · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <p class="quiet">
    <button class="underline cursor-pointer" onclick={() => history.back()}>Back</button> · Method
  </p>
  <!-- Our own Markdown, rendered on the server with raw HTML switched off. -->
  <!-- eslint-disable-next-line svelte/no-at-html-tags -->
  <article>{@html data.method.html}</article>
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 46rem) / 2)) 3rem;
    outline: none;
  }

  article :global(h1) {
    font-size: 1.5rem;
    font-weight: 700;
    margin: 0.4rem 0 0.6rem;
  }
  article :global(h2) {
    font-size: 1.1rem;
    font-weight: 700;
    margin: 1.2rem 0 0.3rem;
  }
  article :global(p),
  article :global(ul) {
    margin: 0.5rem 0;
  }
  article :global(ul) {
    list-style: square;
    padding-left: 1.2rem;
  }
  article :global(pre) {
    background: var(--color-base-100);
    border-left: 2px solid var(--color-primary);
    padding: 0.6rem 0.8rem;
    overflow-x: auto;
  }
  article :global(code) {
    font-family: var(--font-mono);
    font-size: 0.9em;
  }
  article :global(table) {
    border-collapse: collapse;
    margin: 0.6rem 0;
  }
  article :global(td),
  article :global(th) {
    border-top: 1px solid var(--rule);
    padding: 0.25rem 1rem 0.25rem 0;
    text-align: left;
  }
</style>
