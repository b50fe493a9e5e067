<script lang="ts">
  import Place from '$lib/stages/intake/Place.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let inspection = $derived(job().now?.inspection ?? job().settled?.inspection);
</script>

<SheetHead
  title="Walk-round"
  text={inspection
    ? `${inspection.looked} of ${inspection.total} looked at. A bad place becomes a task and holds what comes after it.`
    : ''}
/>

{#if inspection?.put_right.length}
  <section class="right" aria-label="Put right first">
    <h2>{inspection.dead ? 'Put right first' : 'Put right, and proved'}</h2>
    <p>
      {inspection.dead
        ? 'It does not run: no conversion before it is proved on gasoline.'
        : 'It runs again: the conversion may go on.'}
    </p>
    <ol>
      {#each inspection.put_right as step (step.key)}
        <li class={step.state}>
          <span class="state">{step.state === 'open' ? 'then' : step.state}</span>
          <a href={`#look-${step.key}`}>{step.text}</a>
        </li>
      {/each}
    </ol>
  </section>
{:else if inspection?.brand_new}
  <p class="right">
    Brand-new: it may go onto gas before it ever sees gasoline. Nothing here asks for gasoline.
  </p>
{/if}

{#each inspection?.groups ?? [] as group (group.key)}
  <section class="mt-[1.1rem]">
    <h2>{group.title}</h2>
    {#each group.checks as check (check.key)}<Place {check} />{/each}
  </section>
{/each}

<style>
  h2 {
    font-size: 1.1rem;
    font-weight: 700;
    margin-bottom: 0.3rem;
  }

  .right {
    background: var(--tint);
    border-left: 3px solid var(--color-primary);
    border-radius: 0 0.375rem 0.375rem 0;
    padding: 0.6rem 0.9rem;
  }
  ol {
    margin-top: 0.4rem;
  }
  li {
    display: grid;
    grid-template-columns: 3.2rem 1fr;
    padding: 0.15rem 0;
    color: var(--muted);
  }
  .state {
    font-size: 0.85rem;
  }
  .done {
    color: var(--color-success);
  }
  .next {
    color: var(--color-base-content);
    font-weight: 650;
  }
</style>
