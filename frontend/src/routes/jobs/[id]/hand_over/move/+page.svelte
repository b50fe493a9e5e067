<script lang="ts">
  import { freshKey } from '$lib/session/record';
  import { today } from '$lib/stages/logbook/days';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Arrived from '$lib/stages/hand_over/Arrived.svelte';
  import MovesTable from '$lib/stages/hand_over/MovesTable.svelte';
  import MoveFacts from '$lib/stages/hand_over/MoveFacts.svelte';

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
</script>

<SheetHead
  title="Moving"
  text="The same set at another place or on another gas: what to turn, what differs, what is proven there."
/>

{#if found?.arrived}
  {@const last = found.arrived}
  <Arrived {last} />
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
  <MoveFacts {move} {start} {goal} />
  <h2>Proven there, in this order, before it is left running</h2>
  <ol>
    {#each move.again as text (text)}<li>{text}</li>{/each}
  </ol>
  {#if home?.says}<p><b>Home again:</b> {home.says}</p>{/if}
  {#if places.length > 2}
    <h2>Between all places</h2>
    {#if found}<MovesTable {found} />{/if}
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
  h2 {
    font-weight: 700;
    margin-top: 1rem;
  }
  ol {
    list-style: decimal;
    padding-left: 1.4rem;
  }
</style>
