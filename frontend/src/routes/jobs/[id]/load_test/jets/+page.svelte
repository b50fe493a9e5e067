<script lang="ts">
  import { JET_FOUND, MARKINGS } from '$lib/api/published';
  import Figure from '$lib/ui/Figure.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { DECIDED, type What } from '$lib/stages/load_test/types';

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
    <section aria-labelledby="schools">
      <h2 id="schools">Schools side by side</h2>
      <table>
        <tbody>
          {#each jets.wanted as one, i (one.key)}
            <tr data-school={one.key}>
              <td class="value"><Figure figure={one} size="big" /></td>
              <td>
                <b>{one.label}</b>
                {#if i === 0}<span class="quiet">&nbsp;default</span>{/if}
              </td>
              <td class="quiet">{one.method.formula}</td>
              <td>
                {#if jets.picks[i]}
                  <button
                    class="btn btn-sm"
                    disabled={jets.picks[i] === jets.pick}
                    onclick={() => settle(jets?.picks[i] ?? 0, one.label)}
                    >Go by it: <span class="num">{jets.picks[i]}</span></button
                  >
                {/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
      {#if jets.as_it_is}
        <p class={jets.state} data-lambda={jets.state}>
          With <span class="num">{jets.in_it}</span> in it: λ about <Figure
            figure={jets.as_it_is}
          />
          at load here, on a standard day. {jets.text}
        </p>
      {/if}
      {#if jets.coldest}
        <p data-coldest>
          On the coldest night, the leanest of the year: λ about <Figure
            figure={jets.coldest}
            warned={false}
          />.
        </p>
      {/if}
    </section>

    <section aria-labelledby="hand">
      <h2 id="hand">At hand</h2>
      <div class="hand">
        {#each jets.at_hand as number (number)}
          <button
            class="btn num"
            class:btn-primary={number === jets.pick && number !== jets.in_it}
            class:in={number === jets.in_it}
            data-jet={number}
            disabled={!test || number === jets.in_it}
            onclick={() => fit(number)}>{number}</button
          >
        {/each}
      </div>
      {#if jets.pick}
        <p data-decision={jets.pick}>
          The jet for here is <b class="num">{jets.pick}</b> ({jets.why}): sheet, parts list and
          load test go by it. {#if jets.to_order}None of it is in stock: it is on the parts list.{/if}
          {#if jets.settled}
            <button class="btn btn-sm" onclick={() => unsettle()}>Back to the default</button>
          {/if}
        </p>
        <p class="quiet">Put one in and its run begins under Load test.</p>
      {:else}
        <p class="wrong">None that is sold is large enough: run it rich meanwhile.</p>
      {/if}
    </section>
  {:else}
    <p class="quiet">
      The number stamped on the jet, and the elevation it was made for, come first.
    </p>
  {/if}

  {#if jets.orifice}
    <section>
      <h2>Factory gas orifice</h2>
      <p>
        <Figure figure={jets.orifice} band /> here. The maker's own orifice for the elevation goes first;
        never drilled on a guess.
      </p>
    </section>
  {/if}

  {#if test?.runs.length}
    <section aria-labelledby="tried">
      <h2 id="tried">Tried, in order</h2>
      <table>
        <thead><tr><th>Jet</th><th>λ</th><th>At load</th><th>Plug</th><th>Decided</th></tr></thead>
        <tbody>
          {#each test.runs as one (one.key)}
            <tr data-trial={one.jet}>
              <td class="num">{one.jet || '–'}</td>
              <td class="num">{one.lam || '–'}</td>
              <td><Figure figure={one.time} /></td>
              <td>{one.plug?.name ?? '–'}</td>
              <td
                >{one.decided
                  ? DECIDED[one.decided as What].toLowerCase()
                  : 'open'}{#if one.simulated}
                  <b class="wrong">simulated</b>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      <a href={`/jobs/${job().id}/load_test/test`}>To its run under load</a>
    </section>
  {/if}

  {#if jets.below.length}
    <section aria-labelledby="below">
      <h2 id="below">Coming down with <span class="num">{jets.meant}</span></h2>
      <ul>
        {#each jets.below as one (one.place)}
          <li class={one.state} data-below={one.state}>
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
  section {
    border-top: 1px solid var(--rule);
    padding-top: 0.5rem;
    margin-top: 0.5rem;
  }
  h2 {
    font-weight: 700;
  }
  td,
  th {
    text-align: left;
    padding: 0.15rem 1.2rem 0.15rem 0;
    vertical-align: baseline;
  }
  th {
    font-size: 0.85rem;
    color: var(--muted);
  }
  .value {
    text-align: right;
    min-width: 5rem;
  }
  .hand {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin: 0.3rem 0;
  }
  .in {
    background: var(--color-neutral) !important;
    color: var(--color-neutral-content) !important;
  }
  .caution,
  .stop,
  .rich {
    border-left: 4px solid var(--color-warning);
    padding: 0.1rem 0.6rem;
    margin: 0.25rem 0;
  }
  .stop {
    border-left-color: var(--color-error);
    background: var(--stop-tint);
    font-weight: 600;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
  a {
    text-decoration: underline;
  }
  @media (max-width: 600px) {
    td:nth-child(3).quiet {
      display: none;
    }
  }
</style>
