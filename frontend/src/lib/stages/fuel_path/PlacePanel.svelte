<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { money } from '$lib/ui/money.svelte';
  import type { Place, Train } from '$lib/api/client';
  import TextField from '$lib/ui/TextField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import Picker from './Picker.svelte';
  import type { Workbench } from './work.svelte';
  import PlacePressures from '$lib/stages/fuel_path/PlacePressures.svelte';
  import PlaceActs from '$lib/stages/fuel_path/PlaceActs.svelte';

  interface Props {
    train: Train;
    place: Place;
    bench: Workbench;
  }
  let { train, place, bench }: Props = $props();
  let at = $derived(`trains.${train.name}.slots.${place.key}`);
</script>

<section class="panel" aria-label={`Chosen part: ${place.name}`} data-panel={place.key}>
  <div class="head">
    <h2>{place.name}</h2>
    <span class="quiet">
      {place.number}{place.maker && place.maker !== 'site' ? ` · ${place.maker}` : ''}
      {#if !place.site && place.each.metric}· <span class="num"
          >{money(place.each[prefs.system])}</span
        >
        {place.per?.[prefs.system] ?? ''} · {place.stock} in stock{/if}
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
    <PlacePressures {train} {place} />
  </div>
  <PlaceActs {train} {place} {bench} />
  {#if place.by_length}
    <div class="max-w-72 mt-2"><QuantityField path={`${at}.length`} /></div>
  {/if}
  {#if place.ages}
    <div class="max-w-72 mt-2">
      <TextField
        path={`${at}.made`}
        label="Date printed on it"
        placeholder="04 19"
        hint="Rubber ages from that day: replaced after 10 years, or when its maker says."
      />
    </div>
  {/if}
  <div class="mt-2 noted">
    <TextField path={`${at}.note`} label="Note at this part" rows={2} />
    <Photos subject={at} label={place.name} />
  </div>
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
  dt {
    color: var(--muted);
    font-weight: 400;
    text-align: left;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
  .noted {
    display: grid;
    grid-template-columns: minmax(0, 30rem) auto;
    gap: 0.4rem 1rem;
    align-items: center;
  }
  @media (max-width: 700px) {
    .noted,
    .cols {
      grid-template-columns: 1fr;
    }
  }
</style>
