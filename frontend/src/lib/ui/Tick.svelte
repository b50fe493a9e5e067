<script lang="ts">
  import type { Snippet } from 'svelte';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** What the tick writes; a refusal is told beside it. */
    path: string;
    checked: boolean;
    change?: (on: boolean) => void;
    /** Said where no text stands beside it. */
    label?: string;
    large?: boolean;
    children?: Snippet;
  }
  let { path, checked, change, label, large = false, children }: Props = $props();
  const job = useJob();
  let box = $state<HTMLInputElement>();
  let fault = $derived(job().errors[path] ?? '');

  // Once nothing is under way the box shows what the job holds: refused, a tick goes back.
  $effect(() => {
    if (box && !job().waiting) box.checked = checked;
  });

  function turned(on: boolean) {
    if (change) change(on);
    else job().set(path, on);
  }
</script>

<label data-field={path} class:bare={!children}>
  <input
    bind:this={box}
    type="checkbox"
    class="checkbox"
    class:checkbox-sm={!large}
    aria-label={label}
    title={label}
    {checked}
    onchange={(event) => turned(event.currentTarget.checked)}
  />
  {@render children?.()}
  {#if fault}<span class="text-error" role="alert">{fault}</span>{/if}
</label>

<style>
  label {
    display: flex;
    gap: 0.6rem;
    align-items: center;
    min-height: 1.8rem;
    font-weight: 400;
  }
  .bare {
    min-height: 0;
  }
</style>
