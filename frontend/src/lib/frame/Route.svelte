<script lang="ts">
  import type { Stage } from '$lib/api/client';
  import StageMark from '$lib/frame/StageMark.svelte';

  interface Props {
    stages: Stage[];
    job: string;
    current: string;
  }
  let { stages, job, current }: Props = $props();
  // Gas has reached every stage up to the last one that is done without a gap.
  let reached = $derived(stages.findIndex((stage) => !['done', 'left_out'].includes(stage.state)));
  let bar = $state<HTMLElement>();
  // On a phone the bar is wider than the screen: the stage one is at stands in its middle.
  $effect(() => {
    const at = bar?.querySelector<HTMLElement>(`[data-stage="${current}"]`);
    // Measured after the page is painted: asked for at once, all of it would be laid out twice.
    const timer = setTimeout(() => {
      if (bar && at) bar.scrollLeft = at.offsetLeft + (at.offsetWidth - bar.clientWidth) / 2;
    });
    return () => clearTimeout(timer);
  });
  const WORDS: Record<string, string> = {
    done: 'done',
    stop: 'stopped',
    blocked: 'blocked',
    open: 'open question',
    waiting: 'waiting',
    under_way: 'under way',
    not_started: 'not started',
    left_out: 'left out on purpose'
  };
</script>

<nav class="route" bind:this={bar} aria-label="Stages of the job">
  <ol>
    {#each stages as stage, i (stage.key)}
      {@const here = stage.key === current}
      {@const lit = reached === -1 || i < reached}
      <li data-stage={stage.key} class:lit class:last={i === stages.length - 1}>
        <a
          href={`/jobs/${job}/${stage.key}`}
          aria-current={here ? 'step' : undefined}
          class:here
          class:far={stage.state === 'not_started' && !here}
        >
          <StageMark state={stage.state} />
          <span class="text">
            <span class="name">{stage.name}</span>
            <span class="sr">{WORDS[stage.state]}.</span>
            {#if stage.detail}<span class="detail">{stage.detail}</span>{/if}
          </span>
        </a>
      </li>
    {/each}
  </ol>
</nav>

<style>
  /* Holds the words for a screen reader inside the bar: outside it they widen a phone's page. */
  li {
    position: relative;
  }
  ol {
    display: flex;
  }
  a {
    display: flex;
    gap: 0.55rem;
    align-items: start;
    border-radius: 0.375rem;
  }
  .name {
    display: block;
    font-weight: 600;
    line-height: 1.75rem;
  }
  .here .name {
    font-weight: 750;
    text-decoration: underline;
    text-decoration-color: var(--color-primary);
    text-decoration-thickness: 2px;
    text-underline-offset: 0.3em;
  }
  .far .name {
    color: var(--muted);
    font-weight: 500;
  }
  .detail {
    display: block;
    font-size: 0.78rem;
    line-height: 1.15;
    color: var(--muted);
    margin-top: -0.15rem;
  }
  @media (min-width: 900px) {
    .route {
      padding: 1.4rem 0.5rem 1rem 1.1rem;
    }
    ol {
      flex-direction: column;
    }
    li {
      min-height: 3.75rem;
    }
    /* The pipe between two stages: full of gas as far as the work has come. */
    li:not(.last)::before {
      content: '';
      position: absolute;
      left: 0.72rem;
      top: 1.5rem;
      bottom: -0.3rem;
      width: 0.32rem;
      border: 1px solid color-mix(in oklab, var(--color-base-content) 30%, var(--color-base-200));
      border-width: 0 1px;
    }
    li.lit:not(.last)::before {
      background: var(--color-primary);
      border-color: var(--color-primary);
    }
  }
  @media (max-width: 899px) {
    .route {
      overflow-x: auto;
      border-top: 1px solid var(--rule);
      background: var(--color-base-100);
      padding: 0.35rem 0.5rem;
    }
    ol {
      gap: 0.1rem;
      width: max-content;
    }
    a {
      flex-direction: column;
      align-items: center;
      gap: 0.05rem;
      width: 4.6rem;
      padding: 0.15rem 0;
      text-align: center;
    }
    .name {
      font-size: 0.75rem;
      line-height: 1.1;
    }
    .detail {
      display: none;
    }
  }
</style>
