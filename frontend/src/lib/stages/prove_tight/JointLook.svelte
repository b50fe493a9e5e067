<script lang="ts">
  import type { components } from '$lib/api/schema';
  import { freshKey, stamp } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  type JointProof = components['schemas']['JointProofOut'];
  interface Props {
    joint: JointProof;
    gasoline: boolean;
    next: boolean;
  }
  let { joint, gasoline, next }: Props = $props();
  const job = useJob();
  const id = $props.id();
  let ways = $derived(
    gasoline
      ? ([
          ['holds', 'Dry'],
          ['bubbles', 'Damp'],
          ['foam', 'Drips']
        ] as const)
      : ([
          ['holds', 'Film holds'],
          ['bubbles', 'Small bubbles'],
          ['foam', 'Foam']
        ] as const)
  );
  const word = (found: string) => ways.find(([key]) => key === found)?.[1].toLowerCase() ?? found;
  let last = $derived(joint.looks.at(-1));
  /** Leaks found before; the one that is open now is said by itself. */
  let leaks = $derived(
    joint.looks.filter((one) => one.found !== 'holds' && (one !== last || joint.state !== 'leaks'))
  );
  let ready = $derived(joint.made || joint.on_day);

  /** What a look means for the joint is the core's: a pass, a leak, or a pass that is void. */
  function look(found: 'holds' | 'bubbles' | 'foam') {
    job().set(`proof.soaped.${freshKey('l')}`, {
      joint: joint.key,
      found,
      by: prefs.who,
      on: stamp()
    });
  }

  function mend(event: Event & { currentTarget: HTMLInputElement }) {
    if (last) job().set(`proof.soaped.${last.key}.repair`, event.currentTarget.value);
  }
</script>

<li class={joint.state} class:next data-joint={joint.key} data-state={joint.state}>
  <b class="letter num" title={joint.seal}>{joint.letter}</b>
  <div class="what">
    <span class="title">{joint.title}</span>
    {#if joint.state === 'fitter'}<span class="text-success font-semibold"
        >the fitter's own test, permit noted</span
      >
    {:else if joint.state === 'awaits_fitter'}<span class="quiet"
        >waits for the fitter's own test and permit, under Readiness</span
      >
    {:else if joint.state === 'tight'}<span class="text-success font-semibold"
        >tight, {joint.by}</span
      >
    {:else if joint.state === 'leaks' && last}<span class="stop text-error font-semibold"
        >leaks: {word(last.found)}. Close the source, remake the joint, soap it again.</span
      >
    {:else if joint.void}<span class="stop text-error font-semibold"
        >no longer counts: {joint.void}</span
      >
    {:else if !ready}<span class="quiet">not made yet: the fit sheet shows when</span>{/if}
    {#if leaks.length}
      <span class="quiet small"
        >{leaks
          .map((one) => `${word(one.found)}${one.repair ? `, then: ${one.repair}` : ''}`)
          .join(' · ')}</span
      >
    {/if}
    {#if joint.state === 'leaks' && last}
      <label for={`${id}-r`} class="sr">What was done about it</label>
      <input
        id={`${id}-r`}
        class="input input-sm"
        placeholder="what was done about it"
        value={last.repair}
        onchange={mend}
      />
    {/if}
  </div>
  {#if !joint.fitter}
    <div class="acts" role="group" aria-label={joint.title}>
      {#each ways as [found, text] (found)}
        <button
          class="btn btn-sm"
          class:btn-primary={next && found === 'holds'}
          disabled={!ready}
          onclick={() => look(found)}>{text}</button
        >
      {/each}
    </div>
  {/if}
</li>

<style>
  li {
    display: grid;
    grid-template-columns: 1.6rem minmax(0, 1fr) auto;
    gap: 0.2rem 0.7rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    border-left: 3px solid transparent;
    padding: 0.3rem 0 0.3rem 0.4rem;
  }
  .next {
    border-left-color: var(--color-primary);
    background: var(--tint);
  }
  li.leaks {
    border-left-color: var(--color-error);
    background: var(--stop-tint);
  }
  .letter {
    border: 1px solid var(--rule);
    border-radius: 0.25rem;
    text-align: center;
  }
  .title {
    font-weight: 550;
  }
  .what {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 0.7rem;
    align-items: baseline;
  }

  .small {
    font-size: 0.85rem;
    flex-basis: 100%;
  }
  .what input {
    flex-basis: 100%;
    max-width: 26rem;
  }
  .acts {
    display: flex;
    gap: 0.25rem;
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 1.6rem minmax(0, 1fr);
    }
    .acts {
      grid-column: 2;
    }
  }
</style>
