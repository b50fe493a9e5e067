<script lang="ts">
  import { at } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    path: string;
    label: string;
    options: readonly (readonly [string | number | boolean | null, string])[];
    hint?: string;
  }
  let { path, label, options, hint = '' }: Props = $props();
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
  <label for={id}>{label}</label>
  <select {id} class="select" value={chosen} onchange={choose}>
    {#each options as [, text], i (i)}<option value={i}>{text}</option>{/each}
  </select>
  <p class="says" class:wrong={error} aria-live="polite">{error || hint || '\u00a0'}</p>
</div>
