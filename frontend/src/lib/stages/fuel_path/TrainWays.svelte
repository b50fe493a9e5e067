<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import type { Train } from '$lib/api/client';

  interface Props {
    train: Train;
  }
  let { train }: Props = $props();
  const job = useJob();
  let stored = $derived(job().settled?.job.trains?.[train.name]);
</script>

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

<style>
  .branch {
    max-width: 40rem;
    margin: 0.6rem 0;
  }
  .branch h2 {
    font-weight: 650;
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
</style>
