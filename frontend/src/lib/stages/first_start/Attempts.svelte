<script lang="ts">
  import type { components } from '$lib/api/schema';

  type FuelStart = components['schemas']['FuelStartOut'];
  export interface Tried {
    choke: 'open' | 'half' | 'shut';
    presses: number;
    seconds: number;
    hiss: '' | 'heard' | 'not_heard';
    result: 'runs' | 'dies' | 'coughs' | 'nothing' | 'smells';
  }
  interface Props {
    start: FuelStart;
    keep: (tried: Tried) => void;
    remove: (key: string) => void;
    /** Why the last attempt was refused. */
    fault?: string;
  }
  let { start, keep, remove, fault = '' }: Props = $props();
  const id = $props.id();
  const RESULTS: Record<string, string> = {
    runs: 'it runs',
    dies: 'starts, then dies',
    coughs: 'coughs',
    nothing: 'nothing',
    smells: 'gas is smelled outside it'
  };
  let tried = $state<Tried>({
    choke: 'open',
    presses: 1,
    seconds: 2,
    hiss: '',
    result: 'nothing'
  });
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
  <form
    onsubmit={(event) => {
      event.preventDefault();
      keep({ ...tried });
    }}
  >
    <div class="field">
      <label for={`${id}-c`}>Choke</label>
      <select id={`${id}-c`} class="select" bind:value={tried.choke}>
        <option value="open">open</option><option value="half">half</option>
        <option value="shut">shut</option>
      </select>
    </div>
    {#if start.gas}
      <div class="field">
        <label for={`${id}-p`}>Primer presses</label>
        <input
          id={`${id}-p`}
          class="input num"
          type="number"
          min="0"
          max="50"
          bind:value={tried.presses}
        />
      </div>
      <div class="field">
        <label for={`${id}-s`}>Seconds each</label>
        <input
          id={`${id}-s`}
          class="input num"
          type="number"
          min="0"
          max="60"
          bind:value={tried.seconds}
        />
      </div>
      <div class="field">
        <label for={`${id}-h`}>Hiss</label>
        <select id={`${id}-h`} class="select" bind:value={tried.hiss}>
          <option value="">not listened</option><option value="heard">heard</option>
          <option value="not_heard">not heard</option>
        </select>
      </div>
    {/if}
    <div class="field">
      <label for={`${id}-r`}>What it did</label>
      <select id={`${id}-r`} class="select" bind:value={tried.result}>
        {#each Object.entries(RESULTS) as [key, text] (key)}<option value={key}>{text}</option
          >{/each}
      </select>
    </div>
    <!-- That gas is smelled is taken down at any time; a try is not made before the wait is over. -->
    <button class="btn btn-primary" disabled={waits && tried.result !== 'smells'}
      >Note the attempt</button
    >
  </form>
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

  form {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(8rem, 1fr));
    gap: 0.3rem 0.8rem;
    align-items: end;
    max-width: 52rem;
    margin-top: 0.4rem;
  }
  .link {
    font-size: 0.85rem;
  }
</style>
