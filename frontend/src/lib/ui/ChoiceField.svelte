<script lang="ts">
  import { at } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    path: string;
    label: string;
    options: readonly (readonly [string | number | boolean | null, string])[];
    hint?: string;
    /** Buttons that a thumb finds; the first option, that nobody looked, is taken back by a press. */
    thumbs?: boolean;
  }
  let { path, label, options, hint = '', thumbs = false }: Props = $props();
  const id = $props.id();
  const job = useJob();
  let value = $derived(at(job().settled?.job, path));
  let error = $derived(job().errors[path]);
  // A record nobody has begun yet holds nothing: its first option says so.
  let chosen = $derived(
    value === undefined ? 0 : options.findIndex(([option]) => option === value)
  );

  function choose(event: Event & { currentTarget: HTMLSelectElement }) {
    const option = options[Number(event.currentTarget.value)];
    if (option) job().set(path, option[0]);
  }
</script>

<div class="field" data-field={path}>
  {#if thumbs}
    <span {id} class="label">{label}</span>
    <div class="thumbs" role="radiogroup" aria-labelledby={id}>
      {#each options.slice(1) as [option, text], i (i)}
        <button
          type="button"
          role="radio"
          class="btn"
          class:btn-primary={chosen === i + 1}
          aria-checked={chosen === i + 1}
          onclick={() => job().set(path, chosen === i + 1 ? (options[0]?.[0] ?? null) : option)}
          >{text}</button
        >
      {/each}
    </div>
  {:else}
    <label for={id}>{label}</label>
    <select {id} class="select" value={chosen} onchange={choose}>
      {#each options as [, text], i (i)}<option value={i}>{text}</option>{/each}
    </select>
  {/if}
  <p class="says" class:wrong={error} aria-live="polite">{error || hint || '\u00a0'}</p>
</div>

<style>
  .label {
    font-weight: 600;
  }
  .thumbs {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin-top: 0.2rem;
  }
  .thumbs .btn {
    min-height: 2.9rem;
    flex: 1 1 40%;
  }
</style>
