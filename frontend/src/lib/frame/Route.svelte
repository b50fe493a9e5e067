<script lang="ts">
  import type { Stage } from '$lib/api/client';

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
          <svg viewBox="0 0 28 28" class={stage.state} aria-hidden="true">
            <path class="body" d="M14 3 23.5 8.5v11L14 25l-9.5-5.5v-11Z" />
            {#if stage.state === 'done'}
              <path class="tick" d="m9.5 14.2 3.2 3.2 6-6.6" />
            {:else if stage.state === 'stop'}
              <path class="tick" d="M14 8.5v7.5m0 3v.6" />
            {:else if stage.state === 'left_out'}
              <path class="tick" d="M9 14h10" />
            {:else if stage.state === 'waiting'}
              <path class="tick" d="M11.5 10v8m5-8v8" />
            {:else if ['under_way', 'open', 'blocked'].includes(stage.state)}
              <circle class="fill-primary" cx="14" cy="14" r="3.4" />
            {/if}
          </svg>
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
  svg {
    width: 1.75rem;
    height: 1.75rem;
    flex: none;
    position: relative;
    z-index: 1;
  }
  .body {
    fill: var(--color-base-200);
    stroke: color-mix(in oklab, var(--color-base-content) 45%, var(--color-base-200));
    stroke-width: 2;
  }
  .tick {
    fill: none;
    stroke: var(--color-base-200);
    stroke-width: 2.4;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .done .body {
    fill: var(--color-primary);
    stroke: var(--color-primary);
  }
  .open .body,
  .under_way .body {
    stroke: var(--color-primary);
  }

  .stop .body {
    fill: var(--color-error);
    stroke: var(--color-error);
  }
  .waiting .tick {
    stroke: var(--color-base-content);
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
