<script lang="ts">
  import Card from '$lib/stages/hand_over/Card.svelte';
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
  <Card {card} signs={found.signs} />
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
