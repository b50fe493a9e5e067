<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import type { Place, Train } from '$lib/api/client';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { LOADS } from './layout';
  import Insert from './Insert.svelte';
  import Picker from './Picker.svelte';
  import type { Workbench } from './work.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    train: Train;
    place: Place;
    bench: Workbench;
  }
  let { train, place, bench }: Props = $props();
  const job = useJob();
  let at = $derived(`trains.${train.name}.slots.${place.key}`);
  const SEALS = [
    ['', 'as it should be'],
    ['hand', 'hand tight'],
    ['wrench', 'wrench'],
    ['tape', 'tape or compound'],
    ['dry', 'dry'],
    ['clamp', 'clamp'],
    ['gasket', 'gasket']
  ] as const;

  function shown(pa: number | undefined, zone: string) {
    const scale = train.zones.find((one) => one.key === zone)?.[prefs.system];
    if (pa === undefined || !scale) return '–';
    return `${Number((pa / scale.pa).toPrecision(3))
      .toString()
      .replace('-', '−')} ${scale.unit}`;
  }
  let seal = $derived(job().settled?.job.trains?.[train.name]?.slots?.[place.key]?.seal ?? '');
</script>

<section class="panel" aria-label={`Chosen part: ${place.name}`} data-panel={place.key}>
  <div class="head">
    <h2>{place.name}</h2>
    <span class="quiet">
      {place.number}{place.maker && place.maker !== 'site' ? ` · ${place.maker}` : ''}
      {#if !place.site && place.price}· <span class="num">$ {place.price.toFixed(2)}</span
        >{place.by_length ? ' a meter' : ''} · {place.stock} in stock{/if}
    </span>
  </div>
  <div class="cols">
    <dl>
      {#if place.inlet}<dt>in</dt>
        <dd>{place.inlet}</dd>{/if}
      {#if place.outlet}<dt>out</dt>
        <dd>{place.outlet}</dd>{/if}
      {#if place.joint}
        <dt>joint before it</dt>
        <dd class:wrong={!place.joint.mates}>
          {#if place.joint.mates}
            <b>{place.joint.letter}</b>
            {place.joint.do}
            {#if place.joint.torque_nm}<span class="num"
                >{place.joint.torque_nm} N·m, the maker's figure first.</span
              >{/if}
            <span class="quiet"
              >{place.joint.never}
              {place.joint.tool === 'none' ? '' : `Tool: ${place.joint.tool}.`}</span
            >
          {:else}{place.joint.why}{/if}
        </dd>
      {/if}
    </dl>
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
  </div>
  <div class="acts">
    <button class="btn btn-sm" disabled={bench.busy} onclick={() => void bench.pick()}
      >Swap (Enter)</button
    >
    <button
      class="btn btn-sm"
      disabled={bench.busy}
      onclick={() => void bench.edit({ op: 'turn', slot: place.key })}>Turn round</button
    >
    <button
      class="btn btn-sm"
      disabled={bench.busy}
      onclick={() => void bench.edit({ op: 'remove', slot: place.key })}>Take out</button
    >
    <Insert {bench} fuel={train.fuel} after={place.key} />
    {#if place.needs_upright}
      <Tick path={`${at}.upright`} checked={place.upright}>is upright</Tick>
    {/if}
    {#if place.ports.length}
      <Tick path={`${at}.capped`} checked={place.capped}>side opening capped</Tick>
    {/if}
    {#if train.found && place.joint}
      <label class="tick"
        >sealed by
        <select
          class="select select-sm"
          value={seal}
          onchange={(event) => job().set(`${at}.seal`, event.currentTarget.value || null)}
        >
          {#each SEALS as [value, text] (value)}<option {value}>{text}</option>{/each}
        </select></label
      >
    {/if}
  </div>
  {#if place.by_length}
    <div class="cut"><QuantityField path={`${at}.length`} label="Length" /></div>
  {/if}
  <Picker {bench} />
</section>

<style>
  .panel {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    background: var(--color-base-100);
    padding: 0.7rem 0.9rem;
    margin: 0.7rem 0;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1rem;
    align-items: baseline;
    justify-content: space-between;
  }
  h2 {
    font-weight: 650;
  }
  .cols {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 1.5rem;
    margin: 0.4rem 0;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 0.15rem 0.8rem;
    align-content: start;
  }
  dt,
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
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
  td,
  th {
    padding: 0.1rem 0 0.1rem 0.8rem;
  }
  td {
    text-align: right;
    white-space: nowrap;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
  }
  .tick {
    display: flex;
    gap: 0.4rem;
    align-items: center;
    font-size: 0.9rem;
  }
  .cut {
    max-width: 18rem;
    margin-top: 0.5rem;
  }
  @media (max-width: 700px) {
    .cols {
      grid-template-columns: 1fr;
    }
  }
</style>
