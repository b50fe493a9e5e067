<script lang="ts">
  import type { Snapshot } from '$lib/api/client';
  import Mark from '$lib/ui/Mark.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    path: NonNullable<Snapshot['path']>;
    bench: Workbench;
    /** Shown small, under trains that are there already. */
    more?: boolean;
  }
  let { path, bench, more = false }: Props = $props();
  let built = $derived(new Set(path.trains.map((train) => train.template)));
  let ways = $derived(path.templates.filter((one) => !built.has(one.key)));
  let kit = $state('');
</script>

{#if ways.length}
  <section class="section" data-choose>
    <h2>{more ? 'Other trains' : 'Which train?'}</h2>
    {#if !more}
      <p class="quiet">
        Each is filled with the best parts for this set and site, and held against every rule.
      </p>
    {/if}
    <ul>
      {#each ways as way (way.key)}
        <li data-template={way.key}>
          <Mark fuel={way.fuel} letter={way.letter} />
          <span>
            {way.title}
            <span class="quiet">{way.method_name}{way.usual ? ' · suits this site' : ''}</span>
          </span>
          <button
            class="btn btn-sm"
            class:btn-primary={way.usual && !more}
            disabled={bench.busy}
            onclick={() =>
              kit
                ? void bench.propose(way.key, 'kit', way.name, kit)
                : void bench.build(way.key, way.name)}>{kit ? 'From the kit' : 'Build it'}</button
          >
        </li>
      {/each}
    </ul>
    <label class="kit"
      >Parts at hand
      <select class="select select-sm" bind:value={kit}>
        <option value="">the whole catalog</option>
        {#each path.kits as one (one.key)}
          <option value={one.key} disabled={!!one.ruled_out}
            >{one.name} first{one.ruled_out ? ': not for this set' : ''}</option
          >
        {/each}
      </select></label
    >
  </section>
{/if}

<style>
  li {
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 0.7rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.35rem 0;
    max-width: 44rem;
  }
  li .quiet {
    display: block;
    font-size: 0.88rem;
  }
  .kit {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
    margin-top: 0.6rem;
  }
  .kit .select {
    width: auto;
  }
</style>
