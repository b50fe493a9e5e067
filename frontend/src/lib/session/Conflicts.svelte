<script lang="ts">
  import type { Conflict } from './kept';
  import { at } from './path';
  import type { JobSession } from './session.svelte';

  interface Props {
    session: JobSession;
  }
  let { session }: Props = $props();

  /** The server answers, and takes nothing: why. */
  let turnedAway = $derived(session.saving === 'unreached' ? session.unreached : '');

  const words = (value: unknown): string => {
    if (value === undefined || value === null || value === '') return 'nothing';
    if (typeof value !== 'object') return String(value);
    const one = value as Record<string, unknown>;
    const said = ['state', 'decision', 'what', 'note', 'reason', 'by', 'on']
      .map((name) => one[name])
      .filter((text) => text !== undefined && text !== '')
      .map((text) => String(text).replace('T', ' ').replace('Z', ''));
    return said.join(', ') || JSON.stringify(value);
  };
  const theirs = (one: Conflict) =>
    one.write.changes.map((change) => words(at(session.settled?.job, change.path))).join('; ');
  const mine = (one: Conflict) =>
    one.write.changes
      .map((change) => (change.remove ? 'taken out' : words(change.value)))
      .join('; ');
</script>

{#if session.conflicts.length || turnedAway || session.notice}
  <section class="conflicts no-print" role="alert" data-conflicts>
    {#if turnedAway}
      <div data-turned-away><p><b>Not saved yet, kept here.</b> <span>{turnedAway}</span></p></div>
    {/if}
    {#if session.notice}
      <div data-notice>
        <p>{session.notice}</p>
        <button class="btn btn-sm btn-ghost" onclick={() => (session.notice = '')}>Close</button>
      </div>
    {/if}
    {#each session.conflicts as one (one.key)}
      <div>
        {#if one.write.photo}
          <p><b>Photo not taken.</b> <span>{one.said}</span></p>
          <button class="btn btn-sm" onclick={() => session.resolve(one, false)}>Let it go</button>
          <button class="btn btn-sm btn-primary" onclick={() => session.resolve(one, true)}
            >Send again</button
          >
        {:else}
          <p>
            <b>{one.said.split(';')[0]}</b>
            <span>There now: {theirs(one)}.</span> <span>Yours: {mine(one)}.</span>
          </p>
          <button class="btn btn-sm" onclick={() => session.resolve(one, false)}
            >Keep what is there</button
          >
          <button class="btn btn-sm btn-primary" onclick={() => session.resolve(one, true)}
            >Write mine</button
          >
        {/if}
      </div>
    {/each}
  </section>
{/if}

<style>
  .conflicts {
    background: var(--stop-tint);
    border-bottom: 2px solid var(--color-error);
    padding: 0.4rem 1rem;
    max-height: 40vh;
    overflow-y: auto;
    flex: none;
  }
  div {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.6rem;
    align-items: center;
    padding: 0.2rem 0;
  }
  p {
    flex: 1;
    min-width: 14rem;
  }
</style>
