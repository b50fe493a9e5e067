<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import type { Joint } from './types';

  interface Props {
    rows: Joint['rows'];
    /** What the rows are of: the set, or a fuel. */
    title: string;
    letter: string;
    fuel: string;
  }
  let { rows, title, letter, fuel }: Props = $props();
  /** Widest band that is drawn, as a share either way. */
  const MOST = 0.6;
  const place = (over: number) => 50 + (50 * Math.max(-MOST, Math.min(MOST, over - 1))) / MOST;
  const length = ([low, high]: number[]) =>
    `left: ${place(low ?? 1)}%; width: ${place(high ?? 1) - place(low ?? 1)}%`;
</script>

<section aria-label={title}>
  <h2>
    {#if letter}<Mark {letter} {fuel} />{/if}
    {title}
  </h2>
  <ul>
    <li class="head quiet" aria-hidden="true">
      <span></span><span></span><span>together</span><span></span><span>before</span>
      <span>narrowed most by</span>
    </li>
    {#each rows as one (one.figure.key)}
      <li data-joint={one.figure.key}>
        <span class="label">{one.figure.label}</span>
        <span class="value"><Figure figure={one.figure} /></span>
        <span class="num">{one.band}</span>
        <span class="drawn" aria-hidden="true">
          <i class="before" style={length(one.ends_before)}></i>
          <i class="now" style={length(one.ends)}></i>
        </span>
        <span class="quiet was"
          ><span class="word">before</span> <span class="num">{one.band_before}</span></span
        >
        <span class="next">
          {#if one.next}{one.next}: <span class="num">{one.next_band}</span>
          {:else}<span class="quiet">nothing here narrows it</span>{/if}
        </span>
      </li>
    {/each}
  </ul>
</section>

<style>
  h2 {
    font-weight: 700;
    margin-top: 0.9rem;
  }
  li {
    display: grid;
    grid-template-columns: minmax(9rem, 1.2fr) 7.2rem 4.2rem 8rem 4.6rem minmax(11rem, 1.5fr);
    gap: 0 0.7rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.25rem 0;
  }
  .num {
    white-space: nowrap;
  }
  .head {
    border: 0;
    font-size: 0.8rem;
  }
  .word {
    display: none;
  }
  .value {
    text-align: right;
    font-weight: 600;
  }
  .drawn {
    position: relative;
    height: 1rem;
    border-inline: 1px solid var(--rule);
    background: linear-gradient(var(--rule), var(--rule)) center / 1px 100% no-repeat;
  }
  i {
    position: absolute;
    border-radius: 2px;
  }
  .before {
    top: 0.1rem;
    bottom: 0.1rem;
    border: 1px solid var(--muted);
  }
  .now {
    top: 0.3rem;
    bottom: 0.3rem;
    min-width: 3px;
    background: var(--color-primary);
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 1fr auto auto;
    }
    .head {
      display: none;
    }
    .word {
      display: inline;
    }
    .label {
      grid-column: 1 / -1;
    }
    .value {
      text-align: left;
      justify-self: start;
    }
    .drawn {
      grid-column: 1 / -1;
    }
    .was,
    .next {
      font-size: 0.85rem;
    }
    .next {
      grid-column: 1 / -1;
    }
  }
</style>
