<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import type { Snapshot } from '$lib/api/client';

  type Place = NonNullable<Snapshot['moves']>['places'][number];
  interface Props {
    move: NonNullable<Snapshot['moves']>['moves'][number];
    start: Place;
    goal: Place;
  }
  let { move, start, goal }: Props = $props();
</script>

<dl class="screw">
  {#if move.lam}
    <dt>{move.lam.label}</dt>
    <dd><Figure figure={move.lam} band /></dd>
  {/if}
  {#if move.screw}
    <dt>{move.screw.label}</dt>
    <dd><Figure figure={move.screw} band /></dd>
  {/if}
</dl>
{#if move.rows.length}
  <table class="lined">
    <thead>
      <tr>
        <th></th>
        <th scope="col"><Mark letter={start.letter} fuel={start.fuel} /> {start.site}</th>
        <th scope="col"><Mark letter={goal.letter} fuel={goal.fuel} /> {goal.site}</th>
      </tr>
    </thead>
    <tbody>
      {#each move.rows as row (row.label)}
        <tr>
          <th scope="row">{row.label}</th>
          <td><Figure figure={row.here} /></td>
          <td class="there"><Figure figure={row.there} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .screw {
    display: grid;
    grid-template-columns: max-content 1fr;
    gap: 0.1rem 1rem;
    margin: 0.3rem 0 0.8rem;
  }
  dt {
    color: var(--muted);
  }
  dd :global(.figure) {
    justify-content: start;
    text-align: left;
  }
  td.there {
    font-weight: 650;
  }
  @media (max-width: 600px) {
    .screw {
      grid-template-columns: 1fr;
    }
  }
</style>
