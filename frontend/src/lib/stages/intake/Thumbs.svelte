<script lang="ts">
  import { at } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  /** A choice as buttons a thumb finds; the first option is that nobody looked. */
  interface Props {
    path: string;
    label: string;
    options: readonly (readonly [string | number | boolean | null, string])[];
    hint?: string;
  }
  let { path, label, options, hint = '' }: Props = $props();
  const id = $props.id();
  const job = useJob();
  let value = $derived(at(job().settled?.job, path) ?? options[0]?.[0]);
  let error = $derived(job().errors[path]);
</script>

<div class="thumbs" role="radiogroup" aria-labelledby={id} data-field={path}>
  <span {id} class="label">{label}</span>
  <div class="row">
    {#each options.slice(1) as [option, text] (text)}
      <button
        type="button"
        role="radio"
        class="btn"
        class:btn-primary={option === value}
        aria-checked={option === value}
        onclick={() => job().set(path, option === value ? (options[0]?.[0] ?? null) : option)}
        >{text}</button
      >
    {/each}
  </div>
  <p class="says" class:wrong={error} aria-live="polite">{error || hint}</p>
</div>

<style>
  .label {
    font-weight: 600;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin-top: 0.2rem;
  }
  .btn {
    min-height: 2.9rem;
    flex: 1 1 40%;
  }
</style>
