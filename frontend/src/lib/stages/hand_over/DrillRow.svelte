<script lang="ts">
  import { tick } from 'svelte';
  import type { components } from '$lib/api/schema';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import DrillLeave from '$lib/stages/hand_over/DrillLeave.svelte';
  import DrillClock from '$lib/stages/hand_over/DrillClock.svelte';

  interface Props {
    drill: components['schemas']['DrillOut'];
    open: boolean;
    toggle: (on: boolean) => void;
  }
  let { drill, open, toggle }: Props = $props();
  const job = useJob();
  let path = $derived(`hand_over.drills.${drill.key}`);
  let error = $derived(job().errors[path] ?? '');
  let head = $state<HTMLButtonElement>();
  let begun = $state<number>();
  let at = $state(0);
  let wrong = $state(0);
  let now = $state(0);
  let seconds = $derived(begun === undefined ? 0 : Math.max(0, Math.round((now - begun) / 1000)));

  $effect(() => {
    if (begun === undefined) return;
    const beat = setInterval(() => (now = Date.now()), 250);
    return () => clearInterval(beat);
  });

  /** What it came to takes the keyboard: the buttons it was pressed on are gone. */
  async function close() {
    toggle(false);
    await tick();
    head?.focus();
  }

  function begin() {
    begun = now = Date.now();
    at = wrong = 0;
  }

  const record = (more: Record<string, unknown>) => ({
    by: prefs.who,
    on: new Date().toISOString(),
    of: drill.of,
    ...more
  });

  /** The next move was made; the last one ends it. */
  function moved() {
    at += 1;
    if (at < drill.lines.length) return;
    now = Date.now();
    job().set(path, record({ state: 'done', seconds, wrong }));
    begun = undefined;
    void close();
  }

  function leave(reason: string) {
    job().set(path, record({ state: 'left', reason }));
    void close();
  }
</script>

<li data-drill={drill.key} data-settled={drill.settled}>
  <button class="head" bind:this={head} aria-expanded={open} onclick={() => toggle(!open)}>
    <span class="mark" class:on={drill.settled}>{drill.settled ? '✓' : ''}</span>
    <b>{drill.name}</b>
    <span class="quiet">
      {#if drill.stale}taught with other moves: teach it again
      {:else if drill.state === 'done'}{drill.seconds} s{drill.wrong
          ? `, ${drill.wrong} wrong first`
          : ''}, by {drill.by || 'nobody named'}
      {:else if drill.state === 'left'}left by {drill.by || 'nobody named'}: {drill.reason}
      {:else}{drill.lines.length} moves{/if}
    </span>
  </button>
  {#if open}
    <div class="body">
      <ol>
        {#each drill.lines as line, n (`${n} ${line}`)}
          <li
            class:now={begun !== undefined && n === at}
            class:past={begun !== undefined && n < at}
          >
            {line}
          </li>
        {/each}
      </ol>
      {#if begun === undefined}
        <div class="acts">
          <button class="btn btn-primary" disabled={!prefs.who} onclick={begin}
            >Start the clock</button
          >
          {#if drill.state}
            <button class="btn btn-ghost" onclick={() => job().remove(path)}>Take it back</button>
          {/if}
        </div>
        <DrillLeave {drill} {leave} />
        {#if !prefs.who}<p class="quiet">Say who you are (top right) to teach.</p>{/if}
      {:else}
        <DrillClock
          last={at + 1 >= drill.lines.length}
          {wrong}
          {seconds}
          {moved}
          missed={() => (wrong += 1)}
          stop={() => (begun = undefined)}
        />
      {/if}
    </div>
  {/if}
  {#if error}<p class="says wrong" role="alert">{error}</p>{/if}
</li>

<style>
  [data-drill] {
    border-top: 1px solid var(--rule);
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.7rem;
    align-items: center;
    width: 100%;
    text-align: left;
    padding: 0.45rem 0;
    cursor: pointer;
  }
  .mark {
    flex: none;
    width: 1.3rem;
    height: 1.3rem;
    border: 1.5px solid var(--muted);
    border-radius: 0.3rem;
    text-align: center;
    line-height: 1.2rem;
    font-weight: 700;
  }
  .on {
    border-color: var(--color-success);
    color: var(--color-success);
  }
  .body {
    padding: 0 0 0.8rem 2rem;
  }
  ol {
    list-style: decimal;
    padding-left: 1.4rem;
    max-width: 44rem;
  }
  .now {
    font-weight: 700;
  }
  .past {
    color: var(--muted);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-top: 0.6rem;
  }
</style>
