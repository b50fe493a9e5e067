<script lang="ts">
  import { goto } from '$app/navigation';
  import { Clock, hush, say, stayAwake } from '$lib/stages/fit/awake.svelte';
  import BenchStep from '$lib/stages/fit/BenchStep.svelte';
  import Tray from '$lib/stages/fit/Tray.svelte';
  import { done, isOpen, openBefore, stateOf } from '$lib/stages/fit/sheet';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import BenchHead from '$lib/stages/fit/BenchHead.svelte';

  const job = useJob();
  let fit = $derived(job().settled?.fit);
  let steps = $derived(fit?.steps ?? []);
  /** The step in hand, by its key: what was done may set the sheet in another order. */
  let key = $state('');
  let at = $derived(steps.findIndex((one) => one.key === key));
  let speaking = $state(false);
  const clock = new Clock();
  $effect(() => {
    const release = stayAwake();
    return () => {
      release();
      hush();
      clock.stop();
    };
  });

  const firstOpen = (from: number) => {
    const order = [...steps.keys()].map((n) => (from + n) % steps.length);
    return order.find((n) => steps[n] && isOpen(stateOf(job(), steps[n]))) ?? -1;
  };
  $effect(() => {
    if (at < 0 && steps.length) key = steps[Math.max(0, firstOpen(0))]?.key ?? '';
  });
  let step = $derived(steps[at]);
  let stands = $derived(step ? stateOf(job(), step) : 'open');
  let waits = $derived(step ? (openBefore(job(), step)[0]?.what[prefs.system] ?? '') : '');
  let coming = $derived(
    steps
      .slice(at + 1)
      .filter((one) => isOpen(stateOf(job(), one)))
      .slice(0, 3)
  );
  let held = $derived(step && isOpen(stands) ? step.held[prefs.system] : '');
  let finished = $derived(steps.length > 0 && firstOpen(0) < 0);
  let ticked = $derived(steps.filter((one) => !isOpen(stateOf(job(), one))).length);

  function show(n: number) {
    key = steps[n]?.key ?? key;
    clock.start();
    if (speaking) speak();
    document.querySelector('.bench')?.scrollTo(0, 0);
  }

  function speak() {
    const now = steps[at];
    if (now) say([now.what, now.caution].map((one) => one[prefs.system]).join(' '));
  }

  function toggle() {
    speaking = !speaking;
    if (speaking) speak();
    else hush();
  }

  function tick() {
    if (!step || waits || held) return;
    if (isOpen(stands)) done(job(), step, clock.seconds);
    const next = firstOpen(at + 1);
    if (next >= 0) show(next);
  }

  /** A button pressed by hand gives the focus back, so that Space stays "done, next". */
  function onclick(event: MouseEvent) {
    const at = document.activeElement;
    if (event.detail > 0 && at instanceof HTMLButtonElement) at.blur();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const focus = document.activeElement;
    if (focus?.closest('input, textarea, select, dialog[open]')) return;
    if (event.key === ' ' && !focus?.closest('button, a')) tick();
    else if (event.key === 'ArrowLeft' && at > 0) show(at - 1);
    else if (event.key === 'ArrowRight' && at < steps.length - 1) show(at + 1);
    else if (event.key === 'Escape') void goto(`/jobs/${job().id}/fit/sheet`);
    else return;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} {onclick} />

<main class="bench" id="sheet" tabindex="-1">
  <BenchHead {at} count={steps.length} time={clock.text} {speaking} {toggle} />
  <div class="progress" aria-hidden="true">
    <span style:width={`${(100 * ticked) / Math.max(1, steps.length)}%`}></span>
  </div>
  {#if step && fit}
    <BenchStep {step} state={stands} {waits} {held} />
    {#if coming.length}
      <aside class="then" aria-label="Steps after this one">
        <h2>Then</h2>
        {#each coming as one (one.key)}<p>{one.what[prefs.system]}</p>{/each}
      </aside>
    {/if}
    <footer>
      {#key step.key}<Tray {step} />{/key}
      <div class="go">
        <button class="btn back" disabled={at <= 0} onclick={() => show(at - 1)}>Back</button>
        <button class="btn btn-primary done" disabled={Boolean(waits || held)} onclick={tick}
          >{finished ? 'All done' : isOpen(stands) ? 'Done' : 'Next'}</button
        >
      </div>
    </footer>
  {:else if fit}
    <p class="none">No steps yet: choose a method and build its train.</p>
  {/if}
</main>

<style>
  .bench {
    height: 100%;
    overflow-y: auto;
    display: flex;
    flex-direction: column;
    outline: none;
    max-width: 60rem;
    width: 100%;
    margin: 0 auto;
  }
  .progress {
    height: 4px;
    background: var(--color-base-300);
    flex: none;
  }
  .progress span {
    display: block;
    height: 100%;
    background: var(--color-primary);
  }
  .then {
    margin-top: auto;
    padding: 0.4rem 1.1rem;
    color: var(--muted);
  }
  .then h2 {
    font-weight: 650;
  }
  .then p {
    border-top: 1px solid var(--rule);
    padding: 0.2rem 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  footer {
    position: sticky;
    bottom: 0;
    background: var(--color-base-200);
    padding: 0.6rem 1.1rem max(0.9rem, env(safe-area-inset-bottom));
  }
  footer:not(.then + footer) {
    margin-top: auto;
  }
  .go {
    display: grid;
    grid-template-columns: 6rem 1fr;
    gap: 0.6rem;
    margin-top: 0.6rem;
  }
  .go .btn {
    height: 4.5rem;
    font-size: 1.15rem;
  }
  .go .done {
    font-size: 1.5rem;
    font-weight: 750;
  }
  .none {
    padding: 2rem;
  }
</style>
