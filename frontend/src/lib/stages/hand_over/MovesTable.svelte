<script lang="ts">
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    found: NonNullable<Snapshot['moves']>;
  }
  let { found }: Props = $props();
  let places = $derived(found.places);
  const named = (one: (typeof places)[number]) => `${one.site}, ${one.fuel_name}`;

  /** What a cell says: eighths to open or shut the screw. */
  function turned(a: string, b: string): string {
    const one = found.moves.find((m) => m.start === a && m.goal === b);
    if (!one) return '–';
    if (one.stops.length) return 'stops';
    if (!one.lam) return 'jet';
    return one.eighths ? `${one.eighths > 0 ? '+' : '−'}${Math.abs(one.eighths)}/8` : 'as is';
  }
</script>

<div class="overflow-x-auto">
  <table class="lined" data-matrix>
    <thead>
      <tr>
        <th>from \ to</th>
        {#each places as one (one.key)}<th scope="col">{named(one)}</th>{/each}
      </tr>
    </thead>
    <tbody>
      {#each places as a (a.key)}
        <tr>
          <th scope="row">{named(a)}</th>
          {#each places as b (b.key)}<td class="num">{turned(a.key, b.key)}</td>{/each}
        </tr>
      {/each}
    </tbody>
  </table>
</div>
