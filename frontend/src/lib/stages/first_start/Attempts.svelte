<script lang="ts">
  import { RESULTS, type Tried } from './attempts';
  import type { components } from '$lib/api/schema';
  import AttemptForm from '$lib/stages/first_start/AttemptForm.svelte';

  type FuelStart = components['schemas']['FuelStartOut'];
  interface Props {
    start: FuelStart;
    keep: (tried: Tried) => void;
    remove: (key: string) => void;
    /** Why the last attempt was refused. */
    fault?: string;
  }
  let { start, keep, remove, fault = '' }: Props = $props();
  let now = $state(Date.now());
  $effect(() => {
    const timer = setInterval(() => (now = Date.now()), 1000);
    return () => clearInterval(timer);
  });
  let left = $derived(
    start.advice?.wait_until
      ? Math.max(0, Math.round((Date.parse(start.advice.wait_until) - now) / 1000))
      : 0
  );
  let waits = $derived(Boolean(start.advice?.waits && (left || !start.advice.wait_until)));
  const clock = (seconds: number) =>
    `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
</script>

<section aria-label="Attempts">
  <h3>Attempts</h3>
  {#if start.attempts.length}
    <ol>
      {#each start.attempts as one, i (one.key)}
        <li data-attempt={one.result}>
          <b>{RESULTS[one.result]}</b>
          <span class="quiet"
            >choke {one.choke}{start.gas
              ? `, primer ${one.presses} × ${one.seconds} s${one.hiss ? `, hiss ${one.hiss === 'heard' ? 'heard' : 'not heard'}` : ''}`
              : ''} · {one.by}</span
          >
          <button
            class="link"
            aria-label={`Take out attempt ${i + 1}`}
            onclick={() => remove(one.key)}>take out</button
          >
        </li>
      {/each}
    </ol>
  {/if}
  {#if start.advice}
    <div class="advice" role="status" data-advice>
      <b>{start.advice.check}</b>
      <p class="quiet">{start.advice.why}</p>
      {#if left}<p class="num text-[1.4rem] font-bold">Wait {clock(left)}</p>{/if}
    </div>
  {/if}
  <AttemptForm gas={start.gas} {waits} {keep} />
  {#if fault}<p class="says wrong" role="alert">{fault}</p>{/if}
</section>

<style>
  h3 {
    font-weight: 700;
    margin: 0.9rem 0 0.1rem;
  }
  ol {
    list-style: decimal;
    padding-left: 1.4rem;
  }
  .advice {
    border-left: 4px solid var(--color-primary);
    background: var(--tint);
    padding: 0.4rem 0.8rem;
    margin: 0.4rem 0;
    max-width: 46rem;
  }
  .link {
    font-size: 0.85rem;
  }
</style>
