<script lang="ts">
  import type { Check, Finding } from '$lib/api/client';
  import { DECISIONS, STAGE_NAMES } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    id: string;
    check: Check;
    task: NonNullable<Check['task']>;
    finding: Finding;
    error: string | undefined;
    put: (change: Partial<Finding>) => void;
  }
  let { id, check, task, finding, error, put }: Props = $props();
</script>

<div class="work">
  <p>
    <strong>{task.title}</strong> · <span class="num">{task.minutes}</span> min · before {STAGE_NAMES[
      task.holds
    ]}
    {#if task.parts.length}<br /><span class="quiet">Parts: {task.parts.join(', ')}</span>{/if}
    {#if finding.look === 'not_looked'}<br /><span class="quiet">{task.why}</span>{/if}
  </p>
  {#if finding.look === 'bad'}
    <div class="acts">
      <label class="sr" for={`${id}-d`}>{check.title}: decision</label>
      <select
        id={`${id}-d`}
        class="select select-sm"
        value={finding.decision}
        onchange={(event) => put({ decision: event.currentTarget.value as Finding['decision'] })}
      >
        {#each DECISIONS as [value, text] (value)}<option {value}>{text}</option>{/each}
      </select>
      {#if finding.done}
        <span class="done text-success font-[650]">done by {finding.by}</span>
        <button class="btn btn-sm btn-ghost" onclick={() => put({ done: false, by: '' })}
          >Not done after all</button
        >
      {:else}
        <button
          class="btn btn-sm btn-primary"
          disabled={!prefs.who}
          title={prefs.who ? '' : 'Say who you are first (top right)'}
          onclick={() => put({ done: true, by: prefs.who })}>Done</button
        >
      {/if}
    </div>
  {/if}
  {#if error}<p class="says wrong" role="alert">{error}</p>{/if}
</div>

<style>
  .work {
    background: var(--tint);
    border-left: 3px solid var(--color-primary);
    border-radius: 0 0.375rem 0.375rem 0;
    padding: 0.45rem 0.75rem;
    margin-top: 0.4rem;
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.4rem 1rem;
  }
  .acts {
    display: flex;
    gap: 0.5rem;
    align-items: center;
  }
  .acts .select {
    width: 12.5rem;
  }
  @media (max-width: 600px) {
    .acts {
      flex-wrap: wrap;
    }
  }
</style>
