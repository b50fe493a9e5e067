<script lang="ts">
  import TextField from '$lib/ui/TextField.svelte';
  import { freshKey, signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import type { Change } from '$lib/api/client';
  import { DECIDED, type LoadRun, type LoadTest, type What } from './types';

  interface Props {
    test: LoadTest;
    run: LoadRun;
    /** The run that was begun goes on show. */
    begun: (key: string) => void;
  }
  let { test, run, begun }: Props = $props();
  const job = useJob();
  let at = $derived(`load_tests.${test.key}.runs.${run.key}`);
  let choices = $derived<What[]>(
    test.gas && !test.gas_jet
      ? ['keep', 'screw_out', 'screw_in', 'put_right']
      : ['keep', 'jet_up', 'jet_down', 'put_right']
  );
  let advice = $derived(run.advice);
  let origin = $derived<'simulated' | 'measured'>(run.simulated ? 'simulated' : 'measured');

  function text(what: What): string {
    if (what === advice.what && advice.jet && what !== 'keep')
      return `${DECIDED[what]}: ${advice.jet}`;
    if (what === advice.what && advice.turns && what !== 'keep')
      return `${DECIDED[what]} to ${advice.turns}`;
    return DECIDED[what];
  }

  function decide(what: What) {
    const reason = what === advice.what ? advice.reasons.join(' ') : run.reason;
    const changes: Change[] = [{ path: `${at}.decided`, value: { what, reason, ...signed() } }];
    // What a kept run makes of the set, the core says; who turned the screw is said here.
    if (what === 'keep')
      for (const one of run.keeps) {
        changes.push(one);
        if (one.path.endsWith('.locked'))
          changes.push(
            { path: `${one.path}_by`, value: signed().by },
            { path: `${one.path}_on`, value: signed().on }
          );
      }
    job().setAll(changes);
  }

  function again() {
    const key = freshKey('r');
    const path = `load_tests.${test.key}.runs.${key}`;
    begun(key);
    const { jet, turns } = run.again;
    job().setAll([
      { path, value: { plug: { before: 'new' } } },
      ...(jet ? [{ path: `${path}.jet`, typed: jet, origin }] : []),
      ...(turns ? [{ path: `${path}.turns`, typed: turns, origin }] : [])
    ]);
  }
</script>

<div class="advice" class:halt={advice.stop} role="status" data-advice={advice.what}>
  {#if advice.what}
    <p class="next text-[1.15rem] font-bold">
      {text(advice.what)}{#if advice.what === 'keep'}.{:else if advice.expects}; λ about <span
          class="num">{advice.expects}</span
        > expected.{:else}.{/if}
    </p>
  {:else}<p class="next text-[1.15rem] font-bold">Not settled yet.</p>{/if}
  {#each advice.reasons as reason (reason)}<p class="quiet">{reason}</p>{/each}
  {#if advice.stop}<p class="text-error font-bold">Stop: no more load until that is fixed.</p>{/if}
</div>
<div class="acts" role="group" aria-label="Decide">
  {#each choices as what (what)}
    <button
      class="btn"
      class:btn-primary={what === advice.what && run.decided !== what}
      aria-pressed={run.decided === what}
      class:chosen={run.decided === what}
      onclick={() => decide(what)}>{text(what)}</button
    >
  {/each}
</div>
{#if run.decided}
  <p class="mt-[.4rem]">
    Decided: {DECIDED[run.decided as What].toLowerCase()}, {run.decided_by || 'nobody named'}.
    {#if run.settled}<b class="text-success">Settled.</b>
    {:else if run.simulated}<b class="simulated">On the simulated bench: settles nothing.</b>{/if}
  </p>
  <div class="reason max-w-176">
    <TextField
      path={`${at}.decided.reason`}
      label="Reason"
      hint={run.wants_reason ? 'Kept against what follows from the run: note why.' : ''}
    />
  </div>
  {#if run.decided !== 'keep'}
    <button class="btn btn-primary" onclick={again}>Changed: run it again</button>
  {/if}
{/if}

<style>
  .advice {
    border-left: 4px solid var(--color-primary);
    padding: 0.2rem 0.8rem;
    margin-bottom: 0.4rem;
    max-width: 44rem;
  }
  .halt {
    border-left-color: var(--color-error);
    background: var(--stop-tint);
  }

  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
  }
  .chosen {
    background: var(--color-success) !important;
    color: var(--color-success-content);
  }

  .simulated {
    color: var(--color-error);
  }
</style>
