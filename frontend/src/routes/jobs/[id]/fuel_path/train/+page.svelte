<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Choose from '$lib/stages/fuel_path/Choose.svelte';
  import PlacePanel from '$lib/stages/fuel_path/PlacePanel.svelte';
  import Proposals from '$lib/stages/fuel_path/Proposals.svelte';
  import RouteProfile from '$lib/stages/fuel_path/RouteProfile.svelte';
  import TrainDrawing from '$lib/stages/fuel_path/TrainDrawing.svelte';
  import MixturePlot from '$lib/stages/fuel_path/MixturePlot.svelte';
  import Troubles from '$lib/stages/fuel_path/Troubles.svelte';
  import WhatIfs from '$lib/stages/fuel_path/WhatIfs.svelte';
  import { Workbench } from '$lib/stages/fuel_path/work.svelte';
  import TrainTabs from '$lib/stages/fuel_path/TrainTabs.svelte';
  import TrainWays from '$lib/stages/fuel_path/TrainWays.svelte';
  import TrainSums from '$lib/stages/fuel_path/TrainSums.svelte';

  const job = useJob();
  const bench = new Workbench(job);
  let path = $derived(job().now?.path ?? job().settled?.path);
  let trains = $derived((path?.trains ?? []).filter((one) => one.name !== 'as_found'));
  let train = $derived(trains.find((one) => one.name === bench.name) ?? trains[0]);
  let place = $derived(train?.places.find((one) => one.key === bench.slot));
  let drawing = $state<SVGSVGElement>();
  $effect(() => {
    if (train) bench.show(train.name);
  });

  function act(what: 'swap' | 'remove') {
    if (what === 'swap') void bench.pick();
    else void bench.edit({ op: 'remove', slot: bench.slot });
  }
</script>

<SheetHead title="Fuel path" />

{#if path}
  {#if trains.length}
    <TrainTabs {trains} {train} {bench} {drawing} />
  {/if}
  {#if train}
    <p class="quiet text-[.87rem]">
      Source left, engine right. Seals: H hand · W wrench · F flare, dry · T gas tape · C clamp · K
      coupler · G gasket. Arrow keys walk along it.
    </p>
    <TrainDrawing
      {train}
      selected={bench.slot}
      select={(key) => bench.select(key)}
      {act}
      bind:drawing
    />
    <Troubles {train} {bench} />
    <Proposals {bench} now={train.price} />
    {#if place}{#key place.key}<PlacePanel {train} {place} {bench} />{/key}{/if}
    {#if train.mixture}<MixturePlot
        mixture={train.mixture}
        gas={train.fuel.replace('_', ' ')}
      />{/if}
    <TrainWays {train} />
    <TrainSums {train} />
    <RouteProfile {train} />
    <WhatIfs {train} {bench} />
    <Choose {path} {bench} more />
    <p class="quiet">
      <a class="how" href="/methods/trains">How a train is worked out</a> ·
      <a class="how" href="/methods/ladder">the ladder</a>
    </p>
  {:else}
    <Proposals {bench} now={0} />
    <Choose {path} {bench} />
    {#if !path.templates.length}
      <p class="quiet">
        Choose a method that brings gas or a remote tank, and say which fuels the site has: then a
        train can be worked out.
      </p>
    {/if}
  {/if}
{/if}

<style>
  .how {
    text-decoration: underline;
  }
</style>
