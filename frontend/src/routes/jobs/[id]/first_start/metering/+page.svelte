<script lang="ts">
  import { SET_BY, SIGNALS } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import FuelTabs from '$lib/frame/FuelTabs.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { BenchLive } from '$lib/stages/first_start/bench.svelte';
  import BenchHands from '$lib/stages/first_start/BenchHands.svelte';
  import NextReading from '$lib/stages/first_start/NextReading.svelte';
  import GasJet from '$lib/stages/first_start/GasJet.svelte';
  import Looks from '$lib/stages/first_start/Looks.svelte';
  import ReadingsFile from '$lib/ui/ReadingsFile.svelte';
  import Readings from '$lib/stages/first_start/Readings.svelte';
  import Spiral from '$lib/stages/first_start/Spiral.svelte';
  import MixturePlot from '$lib/stages/fuel_path/MixturePlot.svelte';
  import SweepPlot from '$lib/stages/first_start/SweepPlot.svelte';
  import Forbidden from '$lib/frame/Forbidden.svelte';
  import MeteringFacts from '$lib/stages/first_start/MeteringFacts.svelte';

  const job = useJob();
  let gases = $derived(job().now?.metering ?? job().settled?.metering ?? []);
  let chosen = $state('');
  let gas = $derived(gases.find((one) => one.fuel === chosen) ?? gases[0]);
  // By its name alone: a bench must outlive every answer about the job.
  let fuel = $derived(gas?.fuel ?? 'propane');
  let bench = $derived(new BenchLive(job(), fuel));
  let typing = $state('');
  let more = $state(false);
  const SCHOOLS = [
    ['power', 'quarter turn per shaft hp'],
    ['area', "area at the throat's signal"],
    ['preset', "maker's preset"]
  ] as const;
  let at = $derived(`metering.${gas?.key}`);
  let place = $derived(
    bench.now ? (bench.now.hands.turns ?? undefined) : gas?.readings.at(-1)?.turns
  );
  // As many loops as the sweep needs, so that the place on one can be told.
  let seen = $derived(
    Math.min(
      gas?.most ?? 6,
      Math.max(
        2,
        ...[gas?.next?.turns ?? 0, gas?.setting?.value ?? 0, place ?? 0].map((turns) =>
          Math.ceil(1.25 * turns)
        )
      )
    )
  );
  let live = $derived(Boolean(bench.now?.running) && !bench.busy);
</script>

<SheetHead
  title={gas ? `Metering on ${gas.name}` : 'Metering'}
  text={gas?.screw
    ? `In is lean, out is rich. ${gas.set_by === 'lean_drop' ? 'Leaned until it sags, then back a little.' : gas.motors ? 'Set in the middle of the plateau, then a third of the way toward rich, because it must start motors.' : 'Set it in the middle of the plateau.'} Settings are per site and per gas.`
    : ''}
>
  <FuelTabs fuels={gases} chosen={gas?.fuel} choose={(fuel) => (chosen = fuel)} />
</SheetHead>

{#if !gas}
  <p class="quiet">
    No gas train yet: choose the method and work out the train first. Gasoline jets are chosen under
    Load test.
  </p>
{:else}
  <Forbidden no="No start" gas={gas.name} why={gas.forbidden} />
  {#if gas.screw}
    <div class="top">
      <div class="dial">
        <Spiral
          most={seen}
          at={place}
          next={gas.next?.turns}
          band={gas.lean && gas.rich && gas.setting ? [gas.lean.value, gas.rich.value] : undefined}
          set={gas.setting?.value ?? gas.locked_turns ?? undefined}
          text={`Load screw, ${place === undefined ? 'not read yet' : `${place.toFixed(2)} turns from the seat`}`}
        />
        <p class="num text-center text-[1.3rem] font-bold max-w-60">
          {place === undefined ? '–' : place.toFixed(2)} <span class="quiet">turns</span>
        </p>
      </div>
      <div class="grid gap-[.4rem] max-w-160">
        <NextReading {gas} {bench} {live} open={(key) => (typing = key)} />
        <MeteringFacts {gas} />
        <button class="link" onclick={() => (more = !more)} aria-expanded={more}
          >How it is read and started</button
        >
        {#if more}
          <div class="how">
            <ChoiceField path={`${at}.signal`} label="Read by" options={SIGNALS} />
            <ChoiceField path={`${at}.school`} label="Start by" options={SCHOOLS} />
            <ChoiceField path={`${at}.set_by`} label="Set by" options={SET_BY} />
            <QuantityField path={`${at}.preset`} />
            <QuantityField path={`${at}.most`} assumed={`${gas.most} assumed`} />
            {#if gas.signal === 'output'}
              <QuantityField path={`${at}.step`} hint="Empty: it goes in no steps." />
            {/if}
          </div>
          <ReadingsFile
            file={`metering/${gas.key}`}
            at={`${at}.readings`}
            words="turns, output or speed or throttle, λ"
          />
        {/if}
      </div>
    </div>
    {#key bench}<BenchHands {bench} start={gas.start?.value ?? 1} />{/key}
    {#if gas.readings.length}
      <SweepPlot {gas} />
      <Readings {gas} {typing} open={(key) => (typing = key)} />
    {/if}
  {:else if gas.jet}
    <GasJet {gas} jet={gas.jet} />
  {:else}
    <p>
      A multi-fuel carburetor meters {gas.name} by itself: no screw to sweep. Look at how it runs and
      note it; if it does not run right, the maker's selector position and pressure come first.
    </p>
  {/if}
  {#if gas.mixture}<MixturePlot mixture={gas.mixture} gas={gas.name} />{/if}
  {#if gas.locked || !gas.screw || gas.looks.some((one) => one.state)}<Looks {gas} />{/if}
{/if}

<style>
  .top {
    display: grid;
    grid-template-columns: minmax(11rem, 15rem) 1fr;
    gap: 0.5rem 1.6rem;
    align-items: start;
    margin-bottom: 0.8rem;
  }
  .link {
    text-align: left;
  }
  .how {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr));
    gap: 0 1rem;
  }
  @media (max-width: 700px) {
    .top {
      grid-template-columns: 1fr;
    }
    .dial {
      display: flex;
      align-items: center;
      gap: 1rem;
    }
    .dial :global(svg) {
      max-width: 9rem;
    }
  }
</style>
