<script lang="ts">
  import { onMount } from 'svelte';
  import type { components } from '$lib/api/schema';
  import { useJob } from '$lib/session/session.svelte';
  import BenchFrame from '$lib/stages/first_start/BenchFrame.svelte';
  import { BenchLive } from '$lib/stages/first_start/bench.svelte';

  type GasProof = components['schemas']['GasProofOut'];
  interface Props {
    gas: GasProof;
  }
  let { gas }: Props = $props();
  const id = $props.id();
  const job = useJob();
  // The page keys this component by the gas: one bench each.
  // svelte-ignore state_referenced_locally
  const bench = new BenchLive(job(), gas.fuel);
  let joints = $derived(
    gas.zones.flatMap((zone) => zone.joints).filter((one) => one.state !== 'fitter')
  );
  let at = $state(0);
  let seed = $state(1);
  let soaped = $state('');
  let tried = $state<Record<string, string>>({});
  let joint = $derived(joints[Math.min(at, joints.length - 1)]);
  let film = $derived(soaped === joint?.key ? (bench.now?.film ?? '') : '');
  const WORDS: Record<string, string> = {
    holds: 'The film holds.',
    bubbles: 'Small bubbles, slowly.',
    foam: 'Foam at once.'
  };
  onMount(() => {
    void bench.look();
    return () => bench.close();
  });

  async function setUp() {
    tried = {};
    soaped = '';
    at = 0;
    await bench.setUp(seed);
    seed += 1;
  }

  async function soap() {
    if (!joint) return;
    soaped = joint.key;
    await bench.act('film', 2, joint.key);
    const found = bench.now?.film;
    if (found) tried = { ...tried, [joint.key]: found };
  }

  async function mend() {
    if (!joint) return;
    await bench.act('mend', 2, joint.key);
    soaped = '';
  }
</script>

<BenchFrame
  {bench}
  label={`Simulated bench, ${gas.name}`}
  before="A train like this one, one joint of it perhaps not tight."
  during="Practice: what is soaped here proves nothing of the machine."
  first="Practice on the bench"
  another="Another train"
  {setUp}
>
  {#if bench.now && joint}
    <div data-bench-soap={film}>
      <div class="row">
        <label
          ><input
            class="checkbox checkbox-sm"
            type="checkbox"
            checked={bench.now.hands.gas_open}
            onchange={(event) => bench.hands({ gas_open: event.currentTarget.checked })}
          />source open</label
        >
        <label for={`${id}-j`} class="sr">Joint</label>
        <select id={`${id}-j`} class="select select-sm" bind:value={at}>
          {#each joints as one, i (one.key)}
            <option value={i}>{one.title}{tried[one.key] ? `: ${tried[one.key]}` : ''}</option>
          {/each}
        </select>
        <button class="btn btn-sm btn-primary" onclick={soap} disabled={bench.busy}>Soap it</button>
        <button class="btn btn-sm" onclick={mend} disabled={bench.busy}>Remake the joint</button>
        <button
          class="btn btn-sm"
          disabled={at >= joints.length - 1}
          onclick={() => {
            at += 1;
            soaped = '';
          }}>Next joint</button
        >
        <button class="btn btn-sm" onclick={() => bench.act('lock_up')}>Lock-up</button>
      </div>
      <div class="flex gap-4 items-center min-h-[3.2rem]" role="status">
        <svg viewBox="0 0 120 44" width="120" height="44" aria-hidden="true">
          <path d="M0 16h46v-4h8v4h12v-4h8v4h46v12H74v4h-8v-4H54v4h-8v-4H0Z" class="pipe" />
          {#if film}<ellipse cx="60" cy="22" rx="16" ry="14" class="film" />{/if}
          {#if film === 'bubbles'}
            {#each [[50, 10], [60, 7], [70, 12]] as [x, y] (x)}
              <circle cx={x} cy={y} r="3" class="fill-base-100 stroke-info" />
            {/each}
          {:else if film === 'foam'}
            {#each [[46, 8], [52, 4], [59, 7], [66, 3], [72, 8], [50, 13], [69, 13], [60, 12]] as [x, y] (`${x}${y}`)}
              <circle cx={x} cy={y} r="4.4" class="fill-base-100 stroke-info" />
            {/each}
          {/if}
        </svg>
        <p>
          <b class="simulated">simulated</b>
          {bench.trouble ||
            WORDS[film] ||
            bench.now.said ||
            'Soap on, then watch it half a minute.'}
        </p>
      </div>
    </div>
  {/if}
</BenchFrame>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    align-items: center;
    margin-top: 0.4rem;
  }
  .row label {
    display: inline-flex;
    gap: 0.35rem;
    align-items: center;
    font-weight: 400;
  }
  select {
    width: 18rem;
    max-width: 100%;
  }

  .pipe {
    fill: var(--color-base-300);
    stroke: var(--color-base-content);
    stroke-width: 1.2;
  }
  .film {
    fill: color-mix(in oklab, var(--color-info) 22%, transparent);
    stroke: var(--color-info);
    stroke-dasharray: 3 2;
  }

  .simulated {
    color: var(--color-error);
  }
</style>
