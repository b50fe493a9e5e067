<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let standing = $derived(
    (job().now?.cautions ?? []).filter((caution) => caution.severity === 'standing')
  );
</script>

<section class="section">
  <h2>Always</h2>
  <ul>
    {#each standing as caution (caution.key)}<li>{caution.text}</li>{/each}
  </ul>
</section>

<style>
  ul {
    list-style: square;
    padding-left: 1.1rem;
    columns: 2 20rem;
    column-gap: 2rem;
    font-size: 0.9rem;
  }
  li {
    break-inside: avoid;
    margin-bottom: 0.3rem;
  }
</style>
