<script lang="ts">
  import { pageOf } from '$lib/frame/current.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    rests: NonNullable<Snapshot['rests']>;
  }
  let { rests }: Props = $props();
  const job = useJob();
</script>

<section class="section" aria-labelledby="rests">
  <h2 id="rests">What it rests on</h2>
  <p class="quiet">
    Nobody measured these. Each one alone, not far from what is taken, turns something that holds
    now into a stop. {rests.length > 2
      ? 'Measure the first two before you drive home.'
      : 'Measure before you drive home.'}
  </p>
  <ol>
    {#each rests as one (one.path + one.above)}
      <li class="rest" data-rests={one.path}>
        <span>
          <b>{one.label}</b>, taken as <span class="num">{one.taken[prefs.system]}</span>
          <span class="turns"
            >stops {one.above ? 'from' : 'at'}
            <Figure figure={one.turns_at} />{one.above ? '' : ' and below'}</span
          >
        </span>
        <span>{one.stops.join(' ')}</span>
        <a
          class="btn btn-sm btn-ghost"
          href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>Go there</a
        >
      </li>
    {/each}
  </ol>
</section>

<style>
  .section:first-of-type {
    border-top: 0;
    margin-top: 0;
  }
  .rest:nth-child(-n + 2) {
    border-left: 4px solid var(--color-warning);
    padding-left: 0.7rem;
  }
  .turns {
    display: block;
  }
  .rest .num {
    white-space: nowrap;
  }
  li {
    display: grid;
    grid-template-columns: minmax(14rem, 1fr) 1.6fr auto;
    gap: 0.8rem;
    align-items: start;
    border-top: 1px solid var(--rule);
    padding: 0.45rem 0;
  }
  /* As wide with either word, so that no text wraps anew when one is confirmed. */
  li > .btn {
    min-width: 7.5rem;
  }
  @media (max-width: 600px) {
    li {
      grid-template-columns: 1fr;
      justify-items: start;
      gap: 0.2rem;
    }
  }
</style>
