<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import { freshKey, signed, stamp } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    step?: string;
    large?: boolean;
  }
  let { step = '', large = false }: Props = $props();
  const job = useJob();
  let drill = $derived(job().now?.smell ?? job().settled?.smell);
  const id = $props.id();
  let open = $state(false);
  let key = $state('');
  let smells = $derived(job().settled?.job.fit?.smelled ?? {});
  let now = $derived(
    key ? (job().latest(`fit.smelled.${key}`) as (typeof smells)[string] | undefined) : undefined
  );
  let cause = $state('');

  /** One press: what to do stands there at once, and the time is kept. */
  function smelled() {
    key = Object.entries(smells).find(([, one]) => !one.cleared_on)?.[0] ?? '';
    if (!key) {
      key = freshKey('g');
      job().set(`fit.smelled.${key}`, {
        step,
        ...signed(),
        did: [],
        cause: '',
        cleared_by: '',
        cleared_on: ''
      });
    }
    cause = now?.cause ?? '';
    open = true;
  }

  function did(what: string, on: boolean) {
    const before = now?.did ?? [];
    const after = on ? [...before, what] : before.filter((one) => one !== what);
    job().set(`fit.smelled.${key}`, { ...now, did: after });
  }

  function clear() {
    job().set(`fit.smelled.${key}`, {
      ...now,
      cause,
      cleared_by: prefs.who,
      cleared_on: stamp()
    });
    open = false;
  }
</script>

<button
  type="button"
  class="smelled btn"
  class:min-h-12={large}
  class:flex-1={large}
  onclick={smelled}>Gas smelled</button
>

{#if open}
  <Dialog {open} labelledby={`${id}-h`} onclose={() => (open = false)}>
    <div data-smell>
      <h2 id={`${id}-h`}>Gas smelled</h2>
      <ol class="now">
        {#each drill?.at_once ?? [] as one (one.key)}
          <li>
            <Tick
              path={`fit.smelled.${key}`}
              checked={now?.did?.includes(one.key) ?? false}
              change={(on) => did(one.key, on)}
              large>{one.text}</Tick
            >
          </li>
        {/each}
      </ol>
      <h3>Then</h3>
      <ul class="then">
        {#each drill?.next ?? [] as text (text)}<li>{text}</li>{/each}
      </ul>
      <label class="field" for={`${id}-c`}>What it was</label>
      <input id={`${id}-c`} class="input" bind:value={cause} placeholder="joint, valve, spill" />
      <p class="says">
        {cause.trim() ? '' : 'It is logged. Without a cause it stays open and holds the job.'}
      </p>
      <div class="acts">
        <button class="btn" onclick={() => (open = false)}>Leave it open</button>
        <button class="btn btn-primary" disabled={!cause.trim() || !prefs.who} onclick={clear}
          >Found and cleared</button
        >
      </div>
    </div>
  </Dialog>
{/if}

<style>
  .smelled {
    color: var(--color-error);
    border-color: var(--color-error) !important;
    font-weight: 700;
  }

  h2 {
    font-size: 1.5rem;
    font-weight: 750;
    color: var(--color-error);
  }
  h3 {
    font-weight: 700;
    margin-top: 0.7rem;
  }
  .now {
    counter-reset: n;
  }
  .now :global([data-field]) {
    font-size: 1.1rem;
    font-weight: 600;
    padding: 0.45rem 0;
    border-top: 1px solid var(--rule);
  }
  .then li {
    margin: 0.2rem 0 0.2rem 1.1rem;
    list-style: disc;
  }
  .field {
    font-weight: 600;
    margin-top: 0.6rem;
    display: block;
  }
  .acts {
    display: flex;
    gap: 0.5rem;
    justify-content: flex-end;
    flex-wrap: wrap;
  }
</style>
