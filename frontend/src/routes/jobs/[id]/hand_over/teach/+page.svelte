<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import DrillRow from '$lib/stages/hand_over/DrillRow.svelte';

  const job = useJob();
  let found = $derived(job().now?.drills ?? job().settled?.drills ?? []);
  let settled = $derived(found.filter((one) => one.settled).length);
  let open = $state('');
</script>

<SheetHead
  title="Teaching the owner"
  text="The owner does each order by the card, with own hands, while the clock runs. You count wrong moves and say nothing else."
/>

{#if !found.length}
  <p class="quiet">No order yet: choose a method first.</p>
{:else}
  <p data-taught>
    <b class="num">{settled}</b> of <span class="num">{found.length}</span> settled.
  </p>
  <ul data-field="hand_over.drills">
    {#each found as drill (drill.key)}
      <DrillRow {drill} open={open === drill.key} toggle={(on) => (open = on ? drill.key : '')} />
    {/each}
  </ul>
{/if}
