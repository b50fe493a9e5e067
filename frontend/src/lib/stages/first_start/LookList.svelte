<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import type { components } from '$lib/api/schema';

  type Look = components['schemas']['StartLookOut'];
  interface Props {
    looks: Look[];
    title: string;
    /** Where the looks are kept. */
    at: string;
    left: number;
    set: (key: string, state: '' | 'good' | 'bad') => void;
  }
  let { looks, title, at, left, set }: Props = $props();
</script>

<section aria-label={title}>
  <h3>{title} <span class="quiet num">{left ? `${left} open` : 'all good'}</span></h3>
  <ul>
    {#each looks as one (one.key)}
      <li class={one.state} data-look={one.key} data-state={one.state}>
        <Tick
          path={`${at}.${one.key}`}
          checked={one.state === 'good'}
          change={(on) => set(one.key, on ? 'good' : '')}
        >
          <span class="py-1 px-0"><b>{one.text}</b> <span class="quiet">{one.why}</span></span>
        </Tick>
        <span class="quiet by">{one.state ? one.by : ''}</span>
        <button
          class="btn btn-sm btn-ghost"
          class:wrong={one.state === 'bad'}
          aria-pressed={one.state === 'bad'}
          aria-label={`Not good: ${one.text}`}
          onclick={() => set(one.key, one.state === 'bad' ? '' : 'bad')}>Not good</button
        >
      </li>
    {/each}
  </ul>
</section>

<style>
  h3 {
    font-weight: 700;
    margin: 0.9rem 0 0.1rem;
  }
  h3 span {
    font-weight: 500;
    font-size: 0.9rem;
  }
  li {
    display: flex;
    gap: 0.6rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    border-left: 3px solid transparent;
    padding: 0.15rem 0 0.15rem 0.4rem;
  }
  li.bad {
    border-left-color: var(--color-error);
    background: var(--stop-tint);
  }
  li :global([data-field]) {
    flex: 1;
  }

  b {
    font-weight: 600;
  }
  /* A mark changes no text's width: rows must not move under the finger on the next one. */
  li.good b {
    color: var(--muted);
  }
  .by {
    flex: 0 0 6rem;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-size: 0.85rem;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 700;
  }
  @media (max-width: 600px) {
    .by {
      display: none;
    }
  }
</style>
