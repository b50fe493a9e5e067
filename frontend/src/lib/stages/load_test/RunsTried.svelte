<script lang="ts">
  import { DECIDED, type What } from '$lib/stages/load_test/types';
  import type { LoadRun, LoadTest } from '$lib/stages/load_test/types';

  interface Props {
    test: LoadTest;
    run: LoadRun | undefined;
    look: (key: string) => void;
  }
  let { test, run, look }: Props = $props();
</script>

<ol aria-label="Runs in order">
  {#each test.runs as one, i (one.key)}
    <li>
      <button
        class="btn btn-sm"
        class:btn-neutral={one === run}
        aria-pressed={one === run}
        onclick={() => look(one.key)}
        >{i + 1}{one.jet ? `: jet ${one.jet}` : one.turns ? `: ${one.turns} turns` : ''}
        <span class="was">{one.decided ? DECIDED[one.decided as What].toLowerCase() : 'open'}</span
        ></button
      >
    </li>
  {/each}
</ol>

<style>
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
  }
  .was {
    font-weight: 400;
    opacity: 0.8;
  }
</style>
