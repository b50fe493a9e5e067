<script lang="ts">
  import type { Place, Train } from '$lib/api/client';
  import { LOADS } from './layout';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    train: Train;
    place: Place;
  }
  let { train, place }: Props = $props();
  function shown(pa: number | undefined, zone: string) {
    const scale = train.zones.find((one) => one.key === zone)?.[prefs.system];
    if (pa === undefined || !scale) return '–';
    return `${Number((pa / scale.pa).toPrecision(3))
      .toString()
      .replace('-', '−')} ${scale.unit}`;
  }
</script>

<table>
  <thead><tr><th></th><th>before</th><th>after</th></tr></thead>
  <tbody>
    {#each LOADS as [load, name] (load)}
      <tr>
        <th>{name}</th>
        <td class="num">{shown(place.inlet_pa[load], place.zone_in)}</td>
        <td class="num">{shown(place.outlet_pa[load], place.zone_out)}</td>
      </tr>
    {/each}
    <tr><td colspan="3"><a href="/methods/ladder">how these are found</a></td></tr>
  </tbody>
</table>

<style>
  th {
    color: var(--muted);
    font-weight: 400;
    text-align: left;
  }
  td a {
    text-decoration: underline;
    font-size: 0.85rem;
    color: var(--muted);
  }
  td,
  th {
    padding: 0.1rem 0 0.1rem 0.8rem;
  }
  td {
    text-align: right;
    white-space: nowrap;
  }
</style>
