<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import { freshKey } from '$lib/session/record';
  import { today, written } from '$lib/stages/logbook/days';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let found = $derived(job().now?.moves ?? job().settled?.moves);
  let places = $derived(found?.places ?? []);
  let from = $state('');
  let to = $state('');
  const leads = (key: string) => found?.moves.some((one) => one.start === key) ?? false;
  // A gas first, and a place from which there is somewhere to go.
  let start = $derived(
    places.find((one) => one.key === from) ??
      places.find((one) => one.fuel !== 'gasoline' && leads(one.key)) ??
      places.find((one) => leads(one.key))
  );
  let goals = $derived(
    places.filter((one) => found?.moves.some((m) => m.start === start?.key && m.goal === one.key))
  );
  let goal = $derived(goals.find((one) => one.key === to) ?? goals[0]);
  let move = $derived(
    found?.moves.find((one) => one.start === start?.key && one.goal === goal?.key)
  );
  let home = $derived(
    found?.moves.find((one) => one.start === goal?.key && one.goal === start?.key)
  );
  const named = (one: (typeof places)[number]) => `${one.site}, ${one.fuel_name}`;

  /** It is there now: that site is looked at from here on, and what is proven there is asked. */
  function arrive() {
    if (!start || !goal) return;
    const record = { start: start.key, goal: goal.key, on: today(), by: prefs.who, proven: {} };
    job().set(`hand_over.arrivals.${freshKey('v')}`, record);
  }
  /** What a cell of the matrix says: eighths to open or shut the screw. */
  function turned(a: string, b: string): string {
    const one = found?.moves.find((m) => m.start === a && m.goal === b);
    if (!one) return '–';
    if (one.stops.length) return 'stops';
    if (!one.lam) return 'jet';
    return one.eighths ? `${one.eighths > 0 ? '+' : '−'}${Math.abs(one.eighths)}/8` : 'as is';
  }
</script>

<SheetHead
  title="Moving"
  text="The same set at another place or on another gas: what to turn, what differs, what is proven there."
/>

{#if found?.arrived}
  {@const last = found.arrived}
  <section class="section" data-arrived={last.left}>
    <h2>At {last.place}, since {written(last.on)}{last.by ? `, by ${last.by}` : ''}</h2>
    <p>
      {#if last.left}<b class="num">{last.left}</b> of
        <span class="num">{last.asked.length}</span> not proven there yet.{:else}All of it is proven
        there.{/if}
    </p>
    {#each last.asked as one (one.key)}
      {@const path = `hand_over.arrivals.${last.key}.proven.${one.key}`}
      <Tick
        {path}
        checked={Boolean(one.by)}
        change={(on) => (on ? job().set(path, prefs.who || 'the shop') : job().remove(path))}
        >{one.text}{one.by ? ` (${one.by})` : ''}</Tick
      >
    {/each}
  </section>
{/if}
{#if !start || !goal || !move}
  <p class="quiet" data-move="">
    One place and one fuel: nothing to move to. Give the job another site, or another gas here.
  </p>
{:else}
  <div class="ends">
    <label
      >From
      <select class="select" value={start.key} onchange={(e) => (from = e.currentTarget.value)}>
        {#each places.filter((one) => leads(one.key)) as one (one.key)}
          <option value={one.key}>{named(one)}</option>
        {/each}
      </select>
    </label>
    <label
      >To
      <select class="select" value={goal.key} onchange={(e) => (to = e.currentTarget.value)}>
        {#each goals as one (one.key)}<option value={one.key}>{named(one)}</option>{/each}
      </select>
    </label>
    <a
      class="btn btn-sm"
      href={`/api/jobs/${job().id}/move.pdf?start=${start.key}&goal=${goal.key}&system=${prefs.system}`}
      download>Sheet, PDF</a
    >
    <a
      class="btn btn-sm"
      href={`/api/jobs/${job().id}/move.pdf?start=${start.key}&goal=${goal.key}&system=${prefs.system}&size=card`}
      download>Card, PDF</a
    >
    <button class="btn btn-sm" onclick={arrive}>It arrived there</button>
  </div>
  {#each move.stops as text (text)}<p class="stop" role="alert">{text}</p>{/each}
  {#if move.says}<p class="says" data-move={move.eighths}>{move.says}</p>{/if}
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
    <table>
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
  <h2>Proven there, in this order, before it is left running</h2>
  <ol>
    {#each move.again as text (text)}<li>{text}</li>{/each}
  </ol>
  {#if home?.says}<p><b>Home again:</b> {home.says}</p>{/if}
  {#if places.length > 2}
    <h2>Between all places</h2>
    <div class="overflow-x-auto">
      <table class="matrix" data-matrix>
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
    <p class="quiet">
      Eighths of a turn to open (+) or shut (−) the load screw; it is swept there all the same.
    </p>
  {/if}
{/if}

<style>
  .ends {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 1.2rem;
    align-items: end;
  }
  .ends label {
    display: grid;
    font-weight: 600;
  }
  .says {
    font-size: 1.25rem;
    font-weight: 700;
    margin-top: 0.8rem;
  }
  .stop {
    border-left: 4px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.2rem 0.7rem;
    font-weight: 600;
    margin-top: 0.5rem;
  }
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
  th,
  td {
    padding: 0.2rem 1.4rem 0.2rem 0;
    text-align: left;
    font-weight: 400;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
  thead th,
  .there {
    font-weight: 650;
  }
  h2 {
    font-weight: 700;
    margin-top: 1rem;
  }
  ol {
    list-style: decimal;
    padding-left: 1.4rem;
  }
  @media (max-width: 600px) {
    .screw {
      grid-template-columns: 1fr;
    }
  }
</style>
