<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { type Fit } from './sheet';
  import { freshKey } from '$lib/session/record';

  interface Props {
    fit: Fit;
    close: () => void;
  }
  let { fit, close }: Props = $props();
  const job = useJob();
  const id = $props.id();
  let what = $state('');
  let minutes = $state(10);
  let after = $state('');
  let places = $derived(
    fit.steps.filter((step) => step.phase !== 'close' && step.phase !== 'finish')
  );

  function keep(event: SubmitEvent) {
    event.preventDefault();
    job().set(`fit.added.${freshKey('a')}`, { what: what.trim(), why: '', minutes, after });
    close();
  }
</script>

<form onsubmit={keep}>
  <label class="wide flex-1 min-w-52" for={`${id}-w`}
    >What is to be done <input id={`${id}-w`} class="input" bind:value={what} /></label
  >
  <label for={`${id}-m`}
    >Minutes
    <input
      id={`${id}-m`}
      class="input num"
      type="number"
      min="0"
      max="1000"
      bind:value={minutes}
    /></label
  >
  <label class="wide flex-1 min-w-52" for={`${id}-a`}
    >After
    <select id={`${id}-a`} class="select" bind:value={after}>
      <option value="">before closing up</option>
      {#each places as step (step.key)}
        <option value={step.key}>{step.what[prefs.system]}</option>
      {/each}
    </select></label
  >
  <button class="btn btn-primary" disabled={!what.trim()}>Add it</button>
</form>

<style>
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: end;
    border-left: 3px solid var(--color-primary);
    padding: 0.3rem 0 0.3rem 0.7rem;
    margin-top: 0.6rem;
  }
  label {
    width: 6rem;
    font-weight: 600;
    font-size: 0.9rem;
  }
</style>
