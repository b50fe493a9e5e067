<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte';
  import { current } from './current.svelte';
  import { KEYS } from './keys';
</script>

<Dialog open={current.keys} labelledby="keys-title" onclose={() => (current.keys = false)}>
  <h2 id="keys-title">Keys</h2>
  <dl>
    {#each KEYS as [key, what] (key)}
      <dt class="num">{key}</dt>
      <dd>{what}</dd>
    {/each}
  </dl>
  <p class="quiet">Single keys work while no field has the focus.</p>
  <button class="btn btn-sm" onclick={() => (current.keys = false)}>Close</button>
</Dialog>

<style>
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
