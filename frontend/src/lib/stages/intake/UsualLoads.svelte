<script lang="ts">
  import { USUAL_LOADS } from '$lib/api/published';
  import { at, newKey } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  const id = $props.id();
  const job = useJob();

  let known = $derived(job().now?.known_loads ?? job().settled?.known_loads ?? []);
  const fact = (value: number | null) =>
    value === null ? null : { value, origin: 'assumed', typed: '' };

  function add(event: Event & { currentTarget: HTMLSelectElement }) {
    const chosen = event.currentTarget.value;
    const own = known.find(({ name }) => chosen === `own ${name}`);
    const one = own
      ? { ...own, power_factor: null, both_legs: false }
      : USUAL_LOADS.find(({ name }) => name === chosen);
    event.currentTarget.value = '';
    if (!one) return;
    const listed = (at(job().settled?.job, 'load.appliances') ?? {}) as Record<string, unknown>;
    job().set(`load.appliances.${newKey('a', listed)}`, {
      name: one.name,
      kind: one.kind,
      running: fact(one.running),
      starting: fact(one.starting),
      power_factor: fact(one.power_factor),
      leg: one.both_legs ? 'both' : ''
    });
  }
</script>

<p class="usual">
  <label for={id}>Add a usual load</label>
  <select {id} class="select select-sm" value="" onchange={add}>
    <option value="" disabled>choose, then edit to taste</option>
    {#if known.length}
      <optgroup label="Measured by the shop">
        {#each known as one (`${one.name} ${one.kind}`)}
          <option value={`own ${one.name}`}
            >{one.name}, {one.running} W{one.times > 1 ? `, ${one.times} times` : ''}</option
          >
        {/each}
      </optgroup>
    {/if}
    <optgroup label="Usual">
      {#each USUAL_LOADS as one (one.name)}
        <option value={one.name}>{one.name}, {one.running} W</option>
      {/each}
    </optgroup>
  </select>
  <span class="quiet">Assumed watts: measure the real one.</span>
</p>

<style>
  .usual {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.7rem;
    align-items: center;
    margin-top: 0.6rem;
  }
  label {
    font-weight: 600;
  }
  .select {
    width: auto;
    max-width: 20rem;
  }
</style>
