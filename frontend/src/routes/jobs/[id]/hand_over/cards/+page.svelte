<script lang="ts">
  import Mark from '$lib/ui/Mark.svelte';
  import Strokes from '$lib/stages/hand_over/Strokes.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let found = $derived(job().now?.cards ?? job().settled?.cards);
  let chosen = $state('');
  let card = $derived(found?.cards.find((one) => one.key === chosen) ?? found?.cards[0]);
  let at = $derived(`/api/jobs/${job().id}/cards`);
</script>

<SheetHead
  title="Cards"
  text="One a fuel and one for when something is wrong: the orders are those worked out under Fuel states."
/>

{#if found && card}
  {#if found.draft}<p class="draft" role="status" data-draft>{found.draft}</p>{/if}
  <div class="acts">
    <div role="group" aria-label="Card">
      {#each found.cards as one (one.key)}
        <button
          class="btn btn-sm"
          class:btn-neutral={one === card}
          aria-pressed={one === card}
          onclick={() => (chosen = one.key)}>{one.title}</button
        >
      {/each}
    </div>
    <div>
      <a class="btn btn-sm" href={`${at}.pdf?size=letter`} download>PDF, Letter</a>
      <a class="btn btn-sm" href={`${at}.pdf?size=a6`} download>PDF, A6</a>
      <a class="btn btn-sm" href={`${at}.html`} download>One file for a phone</a>
      <a class="btn btn-sm" href={`/api/jobs/${job().id}/record.pdf`} download
        >Record of work, PDF</a
      >
    </div>
  </div>
  <article aria-label={card.title} data-card={card.key}>
    <h2>
      {#if card.fuel}<Mark letter={card.letter} fuel={card.fuel} />{:else}<b>{card.letter}</b>{/if}
      {card.title}
    </h2>
    {#each card.blocks as block (block.title)}
      <h3>
        <span class="sign"
          ><Strokes
            strokes={found.signs[block.sign] ?? []}
            across={24}
            down={24}
            weight={2.2}
          /></span
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
{:else}
  <p class="quiet">No card yet: choose a method first.</p>
{/if}
{#each found?.withheld ?? [] as text (text)}
  <p class="draft" role="alert">{text}</p>
{/each}

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 1.5rem;
    justify-content: space-between;
    margin-bottom: 0.8rem;
  }
  .acts > div {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
  }
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
  .draft {
    border-left: 4px solid var(--color-warning);
    background: var(--tint);
    padding: 0.5rem 0.8rem;
    margin-bottom: 0.7rem;
    font-weight: 600;
  }
  @media print {
    .acts {
      display: none;
    }
  }
</style>
