<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { freshKey, signed } from '$lib/session/record';

  interface Props {
    step: string;
    close: () => void;
  }
  let { step, close }: Props = $props();
  const job = useJob();
  const id = $props.id();
  let what = $state('');
  let decision = $state<'open' | 'go_on' | 'order' | 'stop'>('open');
  let reason = $state('');
  let undoes = $state<string[]>([]);
  // What is done and may have to be done again: this step's own work first, then the newest.
  let done = $derived(
    (job().settled?.fit?.steps ?? [])
      .filter((one) => one.state === 'done' && one.phase === 'work')
      .toReversed()
  );
  let needs = $derived(decision === 'go_on' && !reason.trim());

  function keep(event: SubmitEvent) {
    event.preventDefault();
    job().set(`fit.finds.${freshKey('f')}`, {
      what: what.trim(),
      step,
      decision,
      reason: reason.trim(),
      undoes,
      ...signed()
    });
    close();
  }
</script>

<form onsubmit={keep} data-find>
  <label for={`${id}-w`}>What was found</label>
  <input id={`${id}-w`} class="input" bind:value={what} />
  <fieldset>
    <legend>Decision</legend>
    {#each [['open', 'not yet'], ['go_on', 'go on'], ['order', 'order a part'], ['stop', 'stop']] as [value, text] (value)}
      <label><input type="radio" name={id} {value} bind:group={decision} /> {text}</label>
    {/each}
  </fieldset>
  <label for={`${id}-r`}>{decision === 'go_on' ? 'Why it is safe to go on' : 'Remark'}</label>
  <input id={`${id}-r`} class="input" bind:value={reason} />
  {#if done.length}
    <details>
      <summary
        >Steps to be done again because of it{undoes.length ? `: ${undoes.length}` : ''}</summary
      >
      {#each done as one (one.key)}
        <label
          ><input type="checkbox" value={one.key} bind:group={undoes} />
          {one.what[prefs.system]}</label
        >
      {/each}
    </details>
  {/if}
  <div class="acts">
    <button type="button" class="btn btn-sm btn-ghost" onclick={close}>Never mind</button>
    <button class="btn btn-sm btn-primary" disabled={!what.trim() || needs}>Keep it</button>
  </div>
</form>

<style>
  form {
    display: grid;
    gap: 0.25rem;
    border-left: 3px solid var(--color-primary);
    padding-left: 0.7rem;
  }
  form > label,
  legend {
    font-weight: 600;
    font-size: 0.9rem;
  }
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
  }
  fieldset label {
    display: inline-flex;
    gap: 0.35rem;
    align-items: center;
    min-height: 2rem;
  }
  details label {
    display: flex;
    gap: 0.4rem;
    align-items: baseline;
    min-height: 2rem;
  }
  summary {
    cursor: pointer;
    min-height: 2rem;
  }
  .acts {
    display: flex;
    gap: 0.5rem;
    justify-content: flex-end;
    margin-top: 0.3rem;
  }
</style>
