<script lang="ts">
  import { QUICK } from '$lib/api/published';
</script>

<section class="quick mt-[1.2rem]">
  <h2 class="font-bold mb-[.2rem]">Quick answers</h2>
  <div>
    {#each QUICK as entry (entry.name)}
      <a class="btn btn-sm" href={`/quick/${entry.name}`}>{entry.title}</a>
    {/each}
    <a class="btn btn-sm" href="/shop">The shop</a>
    <a class="btn btn-sm" href="/due">Due on sets in service</a>
    <a class="btn btn-sm" href="/catalog">Catalog of parts</a>
    <a class="btn btn-sm" href="/learned">What the shop learned</a>
  </div>
</section>

<style>
  .quick div {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
  }
</style>
