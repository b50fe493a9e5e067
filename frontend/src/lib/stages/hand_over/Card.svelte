<script lang="ts">
  import Mark from '$lib/ui/Mark.svelte';
  import Strokes from './Strokes.svelte';
  import type { components } from '$lib/api/schema';

  /** One of the owner's cards, as it is printed. */
  interface Props {
    card: components['schemas']['CardOut'];
    signs: Record<string, number[][]>;
  }
  let { card, signs }: Props = $props();
</script>

<article aria-label={card.title} data-card={card.key}>
  <h2>
    {#if card.fuel}<Mark letter={card.letter} fuel={card.fuel} />{:else}<b>{card.letter}</b>{/if}
    {card.title}
  </h2>
  {#each card.blocks as block (block.title)}
    <h3>
      <span class="sign"
        ><Strokes strokes={signs[block.sign] ?? []} across={24} down={24} weight={2.2} /></span
      >
      {block.title}
    </h3>
    {#if block.numbered}
      <ol>
        {#each block.lines as line, n (`${n} ${line}`)}<li>{line}</li>{/each}
      </ol>
    {:else}
      <ul>
        {#each block.lines as line, n (`${n} ${line}`)}<li>{line}</li>{/each}
      </ul>
    {/if}
  {/each}
</article>

<style>
  article {
    border: 2px solid var(--color-base-content);
    border-radius: 0.5rem;
    background: var(--color-base-100);
    padding: 0.9rem 1.2rem;
    max-width: 44rem;
    font-size: 1.1rem;
  }
  h2 {
    font-size: 1.6rem;
    font-weight: 750;
    display: flex;
    gap: 0.6rem;
    align-items: center;
  }
  h2 b {
    border: 2px solid;
    border-radius: 0.4rem;
    min-width: 2.2rem;
    text-align: center;
  }
  h3 {
    font-weight: 700;
    font-size: 1.2rem;
    border-bottom: 1px solid;
    margin: 0.9rem 0 0.2rem;
    display: flex;
    gap: 0.5rem;
    align-items: center;
  }
  .sign {
    width: 1.4rem;
    flex: none;
    display: grid;
  }
  ol {
    list-style: decimal;
  }
  ul {
    list-style: disc;
  }
  ol,
  ul {
    padding-left: 1.5rem;
  }
  li {
    padding: 0.15rem 0;
  }
  li::marker {
    font-weight: 700;
  }
</style>
