<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import BankPlan from '$lib/stages/load_test/BankPlan.svelte';
  import type { LoadTest } from '$lib/stages/load_test/types';

  interface Props {
    test: LoadTest;
  }
  let { test }: Props = $props();
  const job = useJob();
  let bare = $derived(job().settled?.job.set.set_class === 'engine');
  let drives = $derived(job().settled?.job.set.drives ?? '');
</script>

<div class="top">
  <dl>
    <div>
      <dt>Expected here</dt>
      <dd><Figure figure={test.expected} band size="big" /></dd>
    </div>
    <div>
      <dt>Counts from</dt>
      <dd><Figure figure={test.least} /></dd>
    </div>
    {#if test.flow}
      <div>
        <dt>{test.name}, full load</dt>
        <dd><Figure figure={test.flow} /></dd>
      </div>
    {/if}
    {#if test.gas && test.screw}
      <div>
        <dt>Load screw locked</dt>
        <dd class="num">{test.screw} turns</dd>
      </div>
    {/if}
    {#if !test.gas}
      <div>
        <dt>Jet in it</dt>
        <dd>
          <span class="num">{test.jet || 'not known'}</span>
          <a href={`/jobs/${job().id}/load_test/jets`}>Jets</a>
        </dd>
      </div>
    {/if}
  </dl>
  {#if bare}
    <p data-driven>
      Load it by what it drives{drives ? `, ${drives}` : ''}: at least
      <Figure figure={test.least} /> by its own plate or curve, typed as the output with each reading,
      and the speed by a tachometer beside it.
    </p>
  {:else}
    <BankPlan {test} />
  {/if}
</div>

<style>
  dd a {
    text-decoration: underline;
  }
  .top {
    display: grid;
    grid-template-columns: minmax(11rem, 15rem) 1fr;
    gap: 0.5rem 1.8rem;
    align-items: start;
  }
  dl {
    display: grid;
    gap: 0.3rem;
  }
  dt {
    font-size: 0.8rem;
    color: var(--muted);
  }
  dd {
    font-weight: 600;
  }
  dd :global(.figure) {
    justify-content: start;
    text-align: left;
  }
  @media (max-width: 700px) {
    .top {
      grid-template-columns: 1fr;
    }
    dl {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
