<script lang="ts">
  import type { Check, Finding } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { LOOKS } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import Photos from './Photos.svelte';
  import PlaceTask from '$lib/stages/intake/PlaceTask.svelte';

  interface Props {
    check: Check;
  }
  let { check }: Props = $props();
  const id = $props.id();
  const job = useJob();
  const NONE = { look: 'not_looked', value: '', note: '', decision: 'open', done: false, by: '' };
  let path = $derived(`findings.${check.key}`);
  let finding = $derived(job().settled?.job.findings?.[check.key] ?? (NONE as unknown as Finding));
  let error = $derived(job().errors[`${path}.done`] ?? job().errors[`${path}.decision`]);

  function put(change: Partial<Finding>) {
    job().set(path, { ...finding, ...change });
  }

  function look(value: Finding['look']) {
    const still = value === 'bad';
    put({ look: value, ...(still ? {} : { decision: 'open', done: false, by: '' }) });
  }
</script>

<article id={`look-${check.key}`} data-field={path} data-look={check.look} class:task={check.task}>
  <div class="top">
    <h3 id={`${id}-t`}>{check.title}</h3>
    <div class="looks" role="radiogroup" aria-labelledby={`${id}-t`}>
      {#each LOOKS as [value, text] (value)}
        <label class:on={finding.look === value} class={value}>
          <input
            class="sr"
            type="radio"
            name={id}
            {value}
            checked={finding.look === value}
            onchange={() => look(value)}
          />{text}
        </label>
      {/each}
    </div>
  </div>
  <p class="text-[.87rem] quiet"><strong>Good:</strong> {check.good}</p>
  <p class="text-[.87rem] quiet"><strong>Bad:</strong> {check.bad}</p>
  {#if check.fails}<p class="text-[.87rem]">
      {check.fails.label.charAt(0).toUpperCase() + check.fails.label.slice(1)}:
      <Figure figure={check.fails} />
    </p>{/if}
  {#if finding.look !== 'not_looked'}
    <div class="more">
      {#each check.measures as name (name)}
        <QuantityField path={`${path}.measured.${name}`} />
      {/each}
      {#if check.value && (!check.measures.length || finding.value)}<TextField
          path={`${path}.value`}
          label={`Value: ${check.value}`}
        />{/if}
      <div class="wide"><TextField path={`${path}.note`} label="Note" /></div>
      <Photos subject={path} label={check.title} />
    </div>
  {/if}
  {#each check.says as one (one.text)}
    <p class="text-[.87rem]" class:text-error={one.bad} data-said={one.bad}>
      {#if one.bad}<strong>No good:</strong>{/if}
      {one.text}
    </p>
  {/each}
  {#if check.task}
    <PlaceTask {id} {check} task={check.task} {finding} {error} {put} />
  {/if}
</article>

<style>
  article {
    border-top: 1px solid var(--rule);
    padding: 0.55rem 0 0.6rem;
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    justify-content: space-between;
    align-items: center;
  }
  h3 {
    font-weight: 650;
  }
  .looks {
    display: flex;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    overflow: hidden;
  }
  .looks label {
    padding: 0.35rem 0.75rem;
    cursor: pointer;
    font-size: 0.88rem;
    border-left: 1px solid var(--rule);
    background: var(--color-base-100);
  }
  .looks label:first-child {
    border-left: 0;
  }
  .looks label:has(:focus-visible) {
    outline: 2px solid var(--color-primary);
    outline-offset: -2px;
  }
  .looks .on {
    background: var(--color-neutral);
    color: var(--color-neutral-content);
    font-weight: 650;
  }
  .looks .on.bad {
    background: var(--color-error);
    color: var(--color-error-content);
  }
  .looks .on.good {
    background: var(--color-success);
    color: var(--color-success-content);
  }
  .more {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 1rem;
    align-items: center;
    margin-top: 0.4rem;
  }
  .more :global(.field) {
    min-width: 11rem;
  }
  .wide {
    flex: 1 1 16rem;
  }
  @media (max-width: 600px) {
    .looks {
      width: 100%;
    }
    .looks label {
      flex: 1;
      text-align: center;
      padding: 0.6rem 0.2rem;
    }
  }
</style>
