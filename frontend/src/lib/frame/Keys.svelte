<script lang="ts">
  import { current } from './current.svelte';
  import { KEYS } from './keys';

  let dialog = $state<HTMLDialogElement>();
  $effect(() => {
    if (current.keys) dialog?.showModal();
    else dialog?.close();
  });
</script>

<dialog
  bind:this={dialog}
  aria-labelledby="keys-title"
  onclose={() => (current.keys = false)}
  onclick={(event) => event.target === dialog && dialog.close()}
>
  <div class="inside">
    <h2 id="keys-title">Keys</h2>
    <dl>
      {#each KEYS as [key, what] (key)}
        <dt class="num">{key}</dt>
        <dd>{what}</dd>
      {/each}
    </dl>
    <p class="quiet">Single keys work while no field has the focus.</p>
    <button class="btn btn-sm" onclick={() => (current.keys = false)}>Close</button>
  </div>
</dialog>

<style>
  dialog {
    margin: auto;
  }
  .inside {
    padding: 1.2rem 1.5rem;
  }
  h2 {
    font-weight: 700;
    font-size: 1.15rem;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 0.35rem 1.5rem;
    margin: 0.8rem 0;
  }
  dt {
    font-weight: 600;
  }
  .btn {
    margin-top: 0.8rem;
  }
</style>
