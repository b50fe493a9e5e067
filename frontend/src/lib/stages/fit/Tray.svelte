<script lang="ts">
  import FindForm from './FindForm.svelte';
  import { isOpen, note, recordOf, reopen, skip, stateOf, type Step } from './sheet';
  import Smelled from './Smelled.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    step: Step;
  }
  let { step }: Props = $props();
  const job = useJob();
  const id = $props.id();
  let asking = $state<'' | 'note' | 'skip' | 'find'>('');
  let text = $state('');
  let field = $state<HTMLInputElement>();
  let stands = $derived(stateOf(job(), step));
  let subject = $derived(`fit.steps.${step.key}`);
  let photos = $derived(
    step.photos + job().queued.filter((write) => write.photo?.subject === subject).length
  );
  let fault = $derived(job().errors[subject]);

  function ask(what: typeof asking) {
    asking = asking === what ? '' : what;
    text = what === 'note' ? recordOf(job(), step.key).note : '';
  }

  function keep(event: SubmitEvent) {
    event.preventDefault();
    if (asking === 'note') note(job(), step, { note: text.trim() });
    else skip(job(), step, text.trim());
    asking = '';
  }

  function photo(event: Event & { currentTarget: HTMLInputElement }) {
    for (const file of event.currentTarget.files ?? []) job().photo(file, subject);
    event.currentTarget.value = '';
  }
</script>

{#if asking === 'find'}
  <FindForm step={step.key} close={() => (asking = '')} />
{:else if asking}
  <form onsubmit={keep}>
    <label for={`${id}-t`}>{asking === 'note' ? 'Note' : 'Why it is skipped'}</label>
    <input id={`${id}-t`} class="input" bind:value={text} />
    <button class="btn btn-primary" disabled={asking === 'skip' && !text.trim()}
      >{asking === 'note' ? 'Keep it' : 'Skip it'}</button
    >
  </form>
{/if}
{#if fault}<p class="says wrong" role="alert">{fault}</p>{/if}
<div class="tray">
  <button class="btn" class:asked={step.photo && !photos} onclick={() => field?.click()}
    >Photo{photos ? ` ${photos}` : ''}</button
  >
  <input
    bind:this={field}
    class="sr"
    type="file"
    accept="image/*"
    capture="environment"
    aria-label="Photo of this step"
    tabindex="-1"
    onchange={photo}
  />
  <button class="btn" aria-expanded={asking === 'note'} onclick={() => ask('note')}>Note</button>
  {#if isOpen(stands) && !step.must}
    <button
      class="btn"
      disabled={step.held[prefs.system] !== ''}
      aria-expanded={asking === 'skip'}
      onclick={() => ask('skip')}>Skip</button
    >
  {:else if !isOpen(stands)}
    <button class="btn" onclick={() => reopen(job(), step)}>Open again</button>
  {/if}
  <button class="btn" aria-expanded={asking === 'find'} onclick={() => ask('find')}>Found</button>
  <Smelled step={step.key} large />
</div>

<style>
  .tray {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
  }
  .tray .btn {
    min-height: 3rem;
    flex: 1;
    min-width: 4.4rem;
    padding: 0 0.5rem;
  }
  .asked {
    border-color: var(--color-primary) !important;
    font-weight: 700;
  }
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: center;
    margin-bottom: 0.5rem;
  }
  form label {
    font-weight: 600;
    flex-basis: 100%;
  }
  form .input {
    flex: 1;
  }
</style>
