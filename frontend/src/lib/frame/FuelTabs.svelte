<script lang="ts">
  interface Props {
    fuels: { fuel: string; name: string }[];
    /** The fuel looked at. */
    chosen: string | undefined;
    choose: (fuel: string) => void;
  }
  let { fuels, chosen, choose }: Props = $props();
</script>

{#if fuels.length > 1}
  <div class="flex flex-wrap gap-[.3rem]" role="group" aria-label="Fuel">
    {#each fuels as one (one.fuel)}
      <button
        class="btn btn-sm"
        aria-pressed={one.fuel === chosen}
        class:btn-neutral={one.fuel === chosen}
        onclick={() => choose(one.fuel)}>{one.name}</button
      >
    {/each}
  </div>
{/if}
