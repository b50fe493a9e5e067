<script lang="ts">
  import type { CylinderAnswer } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Chill from './Chill.svelte';

  interface Props {
    answer: CylinderAnswer;
  }
  let { answer }: Props = $props();
  let figures = $derived(answer.figures);
  const ROWS = [
    ['to_empty', 'Until empty, if it stayed warm enough'],
    ['to_starve', 'Until too cold'],
    ['left', 'Left behind'],
    ['contents', 'Propane at the start'],
    ['draw', 'Draw at this load'],
    ['continuous', 'Draw it can hold while this full'],
    ['coldest', 'Liquid gets down to'],
    ['starves_at', 'Too cold to give gas below']
  ] as const;
</script>

<div class="answer">
  <div class="first">
    <p class="quiet">Gas comes for</p>
    {#if figures.run}<Figure figure={figures.run} size="big" band />{/if}
    <p class:text-primary={answer.starves} class:font-[650]={answer.starves}>
      {answer.starves ? 'then it is too cold to boil' : 'then it is empty'}
    </p>
    <dl>
      {#each ROWS as [key, label] (key)}
        {@const figure = figures[key]}
        {#if figure}
          <dt>{label}</dt>
          <dd><Figure {figure} /></dd>
        {/if}
      {/each}
    </dl>
  </div>
  <div class="second">
    <Chill {answer} />
    <h3>What would help</h3>
    {#if answer.helps.length}
      <ul>
        {#each answer.helps as help (help.key)}
          <li>
            <span>{help.label}</span>
            <span><Figure figure={help.run} /></span>
            <span class="text-accent"><Figure figure={help.gain} signed /></span>
          </li>
        {/each}
      </ul>
    {:else}
      <p class="quiet">Nothing here would lengthen it much: it runs empty, not cold.</p>
    {/if}
    <p class="mt-2 text-[.87rem] quiet">
      Never a flame, the exhaust or a heater: the shell's limit is about 52 °C (125 °F).
    </p>
  </div>
</div>

<style>
  .answer {
    display: grid;
    grid-template-columns: minmax(15rem, 5fr) minmax(0, 8fr);
    gap: 1.8rem;
  }
  .first :global(.big) {
    justify-content: flex-start;
    text-align: left;
  }

  dl {
    display: grid;
    grid-template-columns: 1fr auto;
    margin-top: 0.7rem;
  }
  dt,
  dd {
    border-top: 1px solid var(--rule);
    padding: 0.28rem 0;
  }
  dd {
    text-align: right;
  }
  h3 {
    font-weight: 700;
    margin-top: 0.6rem;
  }
  li {
    display: grid;
    grid-template-columns: 1fr 5rem 5rem;
    border-top: 1px solid var(--rule);
    padding: 0.25rem 0;
    text-align: right;
  }
  li span:first-child {
    text-align: left;
  }

  @media (max-width: 1000px) {
    .answer {
      grid-template-columns: 1fr;
    }
  }
</style>
