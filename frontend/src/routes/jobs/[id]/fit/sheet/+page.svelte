<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import AddStep from '$lib/stages/fit/AddStep.svelte';
  import Finds from '$lib/stages/fit/Finds.svelte';
  import { isOpen, runs, stateOf } from '$lib/stages/fit/sheet';
  import StepRow from '$lib/stages/fit/StepRow.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let fit = $derived(job().now?.fit ?? job().settled?.fit);
  let shown = $state('');
  let found = false;
  // The place kept: the sheet opens at the step to do now.
  $effect(() => {
    if (found || !fit?.next) return;
    found = true;
    const next = fit.next;
    requestAnimationFrame(() =>
      document.querySelector(`[data-step="${next}"]`)?.scrollIntoView({ block: 'center' })
    );
  });
  let openOnly = $state(false);
  let adding = $state(false);
  let steps = $derived(
    (fit?.steps ?? []).filter((step) => !openOnly || isOpen(stateOf(job(), step)))
  );
  let left = $derived((fit?.steps ?? []).filter((step) => isOpen(stateOf(job(), step))).length);
</script>

<SheetHead title="Fit sheet" text="Made for this set, method and train." />

{#if fit && fit.total}
  <div class="bar">
    <p>
      <span class="text-[1.5rem] font-[650] num" data-done>{fit.total - left}</span> of
      <span class="num">{fit.total}</span>
      done{#if fit.left && left}, <Figure figure={fit.left} band /> left{/if}
    </p>
    <span class="acts no-print">
      <a class="btn btn-primary" href={`/jobs/${job().id}/fit/bench`}>Bench mode</a>
      <button class="btn" aria-expanded={adding} onclick={() => (adding = !adding)}
        >Add a step</button
      >
    </span>
  </div>
  {#if adding}<AddStep {fit} close={() => (adding = false)} />{/if}
  <Finds {fit} />
  {#if steps.some((step) => step.kind === 'stud')}
    <label class="only no-print"
      >Studs reach by
      <select
        class="select select-sm"
        value={job().settled?.job.fit?.studs ?? ''}
        onchange={(event) => job().set('fit.studs', event.currentTarget.value)}
      >
        <option value="">as it comes best</option>
        <option value="longer">longer studs</option>
        <option value="back_out">backing them out</option>
        <option value="extend">extensions</option>
        <option value="pull">drawing the stack together by its nuts</option>
      </select></label
    >
  {/if}
  <label class="only no-print"
    ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={openOnly} /> only what is open</label
  >
  {#each runs(steps) as run, at (`${run.place}-${at}`)}
    <section>
      <h2>{run.place}</h2>
      <ol>
        {#each run.steps as step (step.key)}
          <StepRow
            {step}
            open={shown === step.key}
            toggle={() => (shown = shown === step.key ? '' : step.key)}
          />
        {/each}
      </ol>
    </section>
  {/each}
{:else if fit}
  <p class="quiet">
    The sheet is made once a method is chosen:
    <a href={`/jobs/${job().id}/method/compare`}>compare methods</a>, then build its
    <a href={`/jobs/${job().id}/fuel_path/train`}>train</a>.
  </p>
{/if}

<style>
  .bar {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 1rem;
    justify-content: space-between;
    align-items: center;
  }

  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
  }
  .only .select {
    width: auto;
  }
  .only {
    margin-right: 1.2rem;
    display: inline-flex;
    gap: 0.4rem;
    align-items: center;
    font-size: 0.9rem;
    margin-top: 0.5rem;
  }
  h2 {
    font-size: 0.95rem;
    font-weight: 700;
    color: var(--muted);
    margin: 0.8rem 0 0.15rem;
  }
  h2::first-letter {
    text-transform: uppercase;
  }
  a:not(.btn) {
    text-decoration: underline;
  }
</style>
