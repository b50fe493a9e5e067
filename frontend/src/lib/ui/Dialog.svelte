<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    open: boolean;
    /** What it is called: by a heading's id, or in words. */
    labelledby?: string;
    label?: string;
    width?: 'narrow' | 'middle' | 'wide';
    /** Where it stands: in the middle, or near the top where a list grows below. */
    top?: boolean;
    onclose: () => void;
    children: Snippet;
  }
  let {
    open,
    labelledby,
    label,
    width = 'middle',
    top = false,
    onclose,
    children
  }: Props = $props();
  let dialog = $state<HTMLDialogElement>();

  $effect(() => {
    if (open && dialog && !dialog.open) dialog.showModal();
    if (!open && dialog?.open) dialog.close();
  });
</script>

<dialog
  bind:this={dialog}
  class={width}
  class:top
  aria-labelledby={labelledby}
  aria-label={label}
  {onclose}
  onclick={(event) => event.target === dialog && dialog.close()}
>
  <div class="inside">{@render children()}</div>
</dialog>

<style>
  dialog {
    margin: auto;
    max-height: calc(100dvh - 2rem);
  }
  .top {
    margin: 8vh auto auto;
  }
  .narrow {
    width: min(27rem, calc(100vw - 2rem));
  }
  .middle {
    width: min(34rem, calc(100vw - 1.5rem));
  }
  .wide {
    width: min(40rem, calc(100vw - 1.5rem));
  }
  .inside {
    padding: 1.1rem 1.3rem 1.3rem;
  }
  .inside :global(h2) {
    font-weight: 700;
    font-size: 1.15rem;
  }
</style>
