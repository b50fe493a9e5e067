<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import type { LoadRun, LoadTest } from './types';

  interface Props {
    run: LoadRun;
    test: LoadTest;
  }
  let { run, test }: Props = $props();
</script>

<dl>
  <div>
    <dt>Held</dt>
    <dd>
      {#if run.held}<Figure figure={run.held} />{:else}–{/if}
      <span class="quiet">of <Figure figure={test.expected} /> expected</span>
    </dd>
  </div>
  <div>
    <dt>λ at load</dt>
    <dd class="num">{run.lam || '–'}</dd>
  </div>
  <div>
    <dt>Throttle</dt>
    <dd>{run.opened ? 'seen to open' : 'not seen to open yet'}</dd>
  </div>
</dl>

<style>
  dl {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1.8rem;
    margin: 0.4rem 0;
  }
  dt {
    font-size: 0.8rem;
    color: var(--muted);
  }
  dd {
    font-weight: 600;
  }
  dd .quiet {
    font-weight: 400;
  }
</style>
