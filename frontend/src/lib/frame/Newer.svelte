<script lang="ts">
  const load = () => location.reload();
</script>

<p class="newer no-print" role="status">
  A newer Gentle Ember is here.
  <button class="btn btn-sm" onclick={load}>Load it</button>
  <span class="quiet">What you typed stays.</span>
</p>

<style>
  .newer {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.3rem 0.8rem;
    padding: 0.4rem 1rem;
    background: var(--tint);
    border-bottom: 1px solid var(--rule);
  }
</style>
