<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { DECIDED, type What } from '$lib/stages/load_test/types';
  import type { LoadTest } from '$lib/stages/load_test/types';

  interface Props {
    test: LoadTest;
  }
  let { test }: Props = $props();
  const job = useJob();
</script>

<section class="ruled pt-2 mt-2" aria-labelledby="tried">
  <h2 class="font-bold" id="tried">Tried, in order</h2>
  <table>
    <thead><tr><th>Jet</th><th>λ</th><th>At load</th><th>Plug</th><th>Decided</th></tr></thead>
    <tbody>
      {#each test.runs as one (one.key)}
        <tr data-trial={one.jet}>
          <td class="num">{one.jet || '–'}</td>
          <td class="num">{one.lam || '–'}</td>
          <td><Figure figure={one.time} /></td>
          <td>{one.plug?.name ?? '–'}</td>
          <td
            >{one.decided ? DECIDED[one.decided as What].toLowerCase() : 'open'}{#if one.simulated}
              <b class="wrong">simulated</b>{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <a href={`/jobs/${job().id}/load_test/test`}>To its run under load</a>
</section>

<style>
  td,
  th {
    text-align: left;
    padding: 0.15rem 1.2rem 0.15rem 0;
    vertical-align: baseline;
  }
  th {
    font-size: 0.85rem;
    color: var(--muted);
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
  a {
    text-decoration: underline;
  }
</style>
