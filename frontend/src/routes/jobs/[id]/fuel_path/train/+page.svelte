<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Choose from '$lib/stages/fuel_path/Choose.svelte';
  import PlacePanel from '$lib/stages/fuel_path/PlacePanel.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Proposals from '$lib/stages/fuel_path/Proposals.svelte';
  import RouteProfile from '$lib/stages/fuel_path/RouteProfile.svelte';
  import { downloadSvg } from '$lib/stages/fuel_path/svg';
  import TrainDrawing from '$lib/stages/fuel_path/TrainDrawing.svelte';
  import MixturePlot from '$lib/stages/fuel_path/MixturePlot.svelte';
  import Troubles from '$lib/stages/fuel_path/Troubles.svelte';
  import WhatIfs from '$lib/stages/fuel_path/WhatIfs.svelte';
  import { Workbench } from '$lib/stages/fuel_path/work.svelte';

  const job = useJob();
  const bench = new Workbench(job);
  let path = $derived(job().now?.path ?? job().settled?.path);
  let trains = $derived((path?.trains ?? []).filter((one) => one.name !== 'as_found'));
  let train = $derived(trains.find((one) => one.name === bench.name) ?? trains[0]);
  let place = $derived(train?.places.find((one) => one.key === bench.slot));
  let stored = $derived(train ? job().settled?.job.trains?.[train.name] : undefined);
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
    <div class="bar">
      {#each trains as one (one.name)}
        <button
          type="button"
          class="tab"
          aria-pressed={one.name === train?.name}
          onclick={() => bench.show(one.name)}
          data-train={one.name}
        >
          <Mark fuel={one.fuel} letter={one.letter} />
          <span>{one.template_title}</span>
          {#if one.troubles.some((t) => t.severity === 'stop')}<span
              class="stop text-error font-bold">stop</span
            >{/if}
        </button>
      {/each}
      {#if train}
        <span class="acts">
          <button
            class="btn btn-sm"
            disabled={bench.busy}
            onclick={() => void bench.propose(train.template, 'repair')}>Other parts</button
          >
          {#if drawing}
            <button
              class="btn btn-sm"
              onclick={() => drawing && downloadSvg(drawing, `train-${train.name}`)}>SVG</button
            >
          {/if}
          <button class="btn btn-sm btn-ghost" onclick={() => job().remove(`trains.${train.name}`)}
            >Remove this train</button
          >
        </span>
      {/if}
    </div>
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
    {#if train.fuel !== 'gasoline'}
      <div class="ways">
        <Tick path={`trains.${train.name}.past_exhaust`} checked={stored?.past_exhaust ?? false}
          >a hose passes the exhaust</Tick
        >
        <label
          >a hose passes a cover
          <select
            class="select select-sm"
            value={String(stored?.through_cover ?? null)}
            onchange={(event) =>
              job().set(
                `trains.${train.name}.through_cover`,
                JSON.parse(event.currentTarget.value) as boolean | null
              )}
          >
            <option value="null">by the set's class</option>
            <option value="true">yes</option>
            <option value="false">no</option>
          </select></label
        >
      </div>
    {:else if train.own_branch.length}
      <section class="branch">
        <h2>Own tank's branch</h2>
        <p>
          {train.own_branch
            .map((one) =>
              [one.joined, one.name, one.there && 'there already'].filter(Boolean).join(', ')
            )
            .join(' → ')}
        </p>
        <QuantityField
          path={`trains.${train.name}.own.length`}
          hint="Measured along its way, with slack."
        />
        <Tick path={`trains.${train.name}.own.kept`} checked={stored?.own?.kept ?? false}
          >the hose on the own tank's outlet stays, cut to reach</Tick
        >
      </section>
    {/if}
    <div class="sums">
      {#if train.tightest}
        <p>{train.tightest.label} <Figure figure={train.tightest} band /></p>
      {/if}
      {#if train.signal}<p>{train.signal.label} <Figure figure={train.signal} band /></p>{/if}
      <p>price of the train <span class="num">{money(train.price)}</span></p>
    </div>
    {#if train.assumed.length}
      <p class="taken">
        Assumed:
        {#each train.assumed as one (one.text)}
          <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>{one.text}</a>
        {/each}
      </p>
    {/if}
    {#if Object.keys(train.outdated).length}
      <p class="taken">
        The catalog has newer data for {Object.keys(train.outdated).length} of these parts.
        <button
          class="btn btn-sm"
          onclick={() =>
            job().setAll(
              Object.keys(train.outdated).map((key) => ({ path: `parts.${key}`, remove: true }))
            )}>Take it over</button
        >
      </p>
    {/if}
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
  .branch {
    max-width: 40rem;
    margin: 0.6rem 0;
  }
  .branch h2 {
    font-weight: 650;
  }
  .bar {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    align-items: center;
    margin-bottom: 0.4rem;
  }
  .tab {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    padding: 0.3rem 0.7rem;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    cursor: pointer;
  }
  .tab[aria-pressed='true'] {
    background: var(--color-base-100);
    border-color: var(--color-base-content);
    font-weight: 600;
  }
  .acts {
    display: flex;
    gap: 0.4rem;
    margin-left: auto;
  }

  .ways,
  .ways label {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
  }
  .ways {
    gap: 0.4rem 1.6rem;
    margin-top: 0.6rem;
  }
  .ways .select {
    width: auto;
  }
  .sums {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 2rem;
    margin: 0.7rem 0;
  }
  .taken {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.8rem;
    align-items: center;
    color: var(--muted);
    font-size: 0.9rem;
  }
  .how,
  .taken a {
    text-decoration: underline;
  }
</style>
