<script lang="ts">
  import Draw from './Draw.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import FindForm from './FindForm.svelte';
  import { note, openBefore, reopen, skip, type FullRecord, type Step } from './sheet';

  interface Props {
    step: Step;
    state: Step['state'];
    record: FullRecord;
  }
  let { step, state: stands, record }: Props = $props();
  const job = useJob();
  const id = $props.id();
  let system = $derived(prefs.system);
  let before = $derived(openBefore(job(), step));
  let asking = $state<'' | 'skip' | 'find'>('');
  let reason = $state('');
</script>

<div class="more">
  <p class="quiet">{step.why[system]}</p>
  {#if step.caution[system]}<p class="caution">{step.caution[system]}</p>{/if}
  {#if step.good[system]}<p><b>Good:</b> {step.good[system]}</p>{/if}
  {#if step.bad[system]}<p><b>Not good:</b> {step.bad[system]}</p>{/if}
  {#if before.length}
    <p class="text-warning">
      First: {before
        .map((one) => one.what[system])
        .slice(0, 3)
        .join(' ')}
    </p>
  {/if}
  <dl>
    {#if step.tools.length}<dt>Tools</dt>
      <dd>{step.tools.join(', ')}</dd>{/if}
    {#if step.takes.length}<dt>Takes</dt>
      <dd>{step.takes.join(', ')}</dd>{/if}
    {#if step.parts.length}<dt>Parts</dt>
      <dd>{step.parts.join('; ')}</dd>{/if}
    {#if step.torque}<dt>How tight</dt>
      <dd>
        <span class="num">{step.torque[system]}</span>
        <span class="quiet">{step.torque.source}</span>
      </dd>{/if}
    {#if step.secured}<dt>Secured by</dt>
      <dd>{step.secured}</dd>{/if}
    {#if step.photo}<dt>Photo</dt>
      <dd>{step.photo}</dd>{/if}
  </dl>
  {#if step.measures.length}<Draw measures={step.measures} />{/if}
  <div class="fields">
    <label for={`${id}-v`}
      >Measured
      <input
        id={`${id}-v`}
        class="input input-sm"
        value={record.value}
        onchange={(event) => note(job(), step, { value: event.currentTarget.value })}
      /></label
    >
    <label class="wide" for={`${id}-n`}
      >Note
      <input
        id={`${id}-n`}
        class="input input-sm"
        value={record.note}
        onchange={(event) => note(job(), step, { note: event.currentTarget.value })}
      /></label
    >
    <Photos subject={`fit.steps.${step.key}`} label={step.what[system]} />
  </div>
  <div class="acts">
    {#if stands === 'done' || stands === 'skipped'}
      <button class="btn btn-sm" onclick={() => reopen(job(), step)}>Open it again</button>
    {:else}
      <button
        class="btn btn-sm"
        disabled={step.held[system] !== ''}
        onclick={() => (asking = asking === 'skip' ? '' : 'skip')}>Skip</button
      >
    {/if}
    <button class="btn btn-sm" onclick={() => (asking = asking === 'find' ? '' : 'find')}
      >Something found</button
    >
  </div>
  {#if asking === 'skip'}
    <form
      class="ask"
      onsubmit={(event) => {
        event.preventDefault();
        skip(job(), step, reason.trim());
        asking = '';
      }}
    >
      <label for={`${id}-s`}>Why it is skipped</label>
      <input id={`${id}-s`} class="input input-sm" bind:value={reason} />
      <button class="btn btn-sm btn-primary" disabled={!reason.trim()}>Skip it</button>
    </form>
  {:else if asking === 'find'}
    <FindForm step={step.key} close={() => (asking = '')} />
  {/if}
</div>

<style>
  .more {
    display: grid;
    gap: 0.35rem;
    padding: 0.2rem 0 0.6rem;
    max-width: 44rem;
  }
  .caution {
    border-left: 3px solid var(--color-warning);
    padding-left: 0.6rem;
    font-weight: 550;
  }

  dl {
    display: grid;
    grid-template-columns: 6rem 1fr;
    gap: 0.1rem 0.6rem;
    font-size: 0.92rem;
  }
  dt {
    color: var(--muted);
  }
  .fields {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: end;
  }
  .fields label {
    width: 9rem;
    font-size: 0.88rem;
  }
  .fields .wide {
    flex: 1;
    min-width: 12rem;
  }
  .acts,
  .ask {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: center;
  }
  .ask .input {
    flex: 1;
    min-width: 12rem;
  }
</style>
