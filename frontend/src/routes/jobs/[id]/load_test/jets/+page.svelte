<script lang="ts">
  import { JET_FOUND, MARKINGS } from '$lib/api/published';
  import Figure from '$lib/ui/Figure.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import JetSchools from '$lib/stages/load_test/JetSchools.svelte';
  import JetsAtHand from '$lib/stages/load_test/JetsAtHand.svelte';
  import JetsTried from '$lib/stages/load_test/JetsTried.svelte';

  const job = useJob();
  let jets = $derived(job().now?.jets ?? job().settled?.jets);
  let test = $derived(
    (job().now?.load_tests ?? job().settled?.load_tests ?? []).find(
      (one) => one.fuel === 'gasoline'
    )
  );
  let document = $derived(job().settled?.job);
  let dual = $derived(document?.set.set_class === 'dual_fuel');
  let site = $derived(document?.site ?? 's1');
  const at = 'set.carburetor.jets';

  /** The jet somebody settles on; sheet, parts list and load test follow it. */
  function settle(number: number, school: string) {
    const source = school.split(':')[0];
    job().setAll([
      { path: `${at}.chosen.number`, typed: String(number), origin: 'owner' },
      { path: `${at}.chosen.source`, value: source }
    ]);
  }

  function unsettle() {
    job().set(`${at}.chosen`, { number: null, source: '' });
  }

  function fit(number: number) {
    if (!test) return;
    const path = `load_tests.${test.key}.runs.${freshKey('r')}`;
    job().setAll([
      { path, value: { plug: { before: 'new' } } },
      { path: `${path}.jet`, typed: String(number), origin: 'measured' }
    ]);
  }
</script>

<SheetHead
  title="Main jet"
  text="Higher up the same jet runs rich. A smaller one, never leaner than asked; then λ or the plug decides."
/>

{#if jets}
  <div class="numbers">
    <QuantityField path={`${at}.stamped.number`} label="Stamped on it" />
    <QuantityField path={`${at}.published.number`} label="Published" />
    <QuantityField path={`${at}.believed.number`} label="Believed" />
    <ChoiceField path={`${at}.marking`} label="Marked by" options={MARKINGS} />
    <QuantityField path="set.carburetor.jetted_at" />
    <QuantityField path={`sites.${site}.elevation`} />
    <ChoiceField path={`${at}.found`} label="Ran as found" options={JET_FOUND} />
    <QuantityField path={`${at}.found_lam`} />
    <QuantityField path={`${at}.step`} assumed="2.5" />
    <QuantityField path={`${at}.kit.number`} label="The kit's sheet says" />
    <TextField path={`${at}.kit.source`} label="Which kit" />
    {#if dual}<QuantityField path={`${at}.orifice`} />{/if}
  </div>

  {#if jets.wanted.length}
    <JetSchools {jets} {settle} />

    <JetsAtHand {jets} ready={Boolean(test)} {fit} {unsettle} />
  {:else}
    <p class="quiet">
      The number stamped on the jet, and the elevation it was made for, come first.
    </p>
  {/if}

  {#if jets.orifice}
    <section class="ruled pt-2 mt-2">
      <h2 class="font-bold">Factory gas orifice</h2>
      <p>
        <Figure figure={jets.orifice} band /> here. The maker's own orifice for the elevation goes first;
        never drilled on a guess.
      </p>
    </section>
  {/if}

  {#if test?.runs.length}
    <JetsTried {test} />
  {/if}

  {#if jets.below.length}
    <section class="ruled pt-2 mt-2" aria-labelledby="below">
      <h2 class="font-bold" id="below">Coming down with <span class="num">{jets.meant}</span></h2>
      <ul>
        {#each jets.below as one (one.place)}
          <li class={`mixed ${one.state}`} data-below={one.state}>
            {one.place}: λ about <Figure figure={one.figure} />. {one.text}
          </li>
        {/each}
      </ul>
      <p>
        Tag the set with the jet in it and its elevation, and tie the old jet in its bag to it: down
        there the old one goes back in first.
      </p>
    </section>
  {/if}
{/if}

<style>
  .numbers {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10.5rem, 1fr));
    gap: 0 1rem;
  }
</style>
