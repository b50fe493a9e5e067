<script lang="ts">
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import JointRows from '$lib/stages/load_test/JointRows.svelte';

  const job = useJob();
  let joint = $derived(job().now?.joint ?? job().settled?.joint);
  let fuels = $derived([...new Set((joint?.rows ?? []).map((one) => one.fuel))]);
  const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);
</script>

<SheetHead
  title="Joint estimate"
  text="All that was read of this set on this site, taken together: each reading narrows more than its own figure."
/>

{#if !joint}
  <p class="quiet">
    The running rating and a method come first; then what is known of this set stands here.
  </p>
{:else}
  <p class="next" data-next>
    {#if joint.next}
      <b>Read next:</b>
      {joint.next}. It takes about <span class="num">{joint.minutes}</span> minutes and narrows most of
      what stands below.
    {:else}
      No reading that is usual narrows this much further.
    {/if}
    <span class="quiet">
      So far <span class="num">{joint.readings}</span>
      {joint.readings === 1 ? 'reading' : 'readings'}.
    </span>
  </p>
  {#if joint.unlike.length}
    <div class="unlike" role="note">
      <b>Left out: these don't go with the others. Read them again.</b>
      <ul>
        {#each joint.unlike as one (one.path)}
          <li data-unlike>
            {capital(one.label)}: read <span class="num">{one.read[prefs.system]}</span>; the others
            point to <span class="num">{one.foretold[prefs.system]}</span>.
            <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>Go there</a>
          </li>
        {/each}
      </ul>
    </div>
  {/if}
  {#each fuels as fuel (fuel)}
    {@const rows = joint.rows.filter((one) => one.fuel === fuel)}
    <JointRows
      {rows}
      {fuel}
      title={fuel ? capital(rows[0]?.fuel_name ?? '') : 'The set'}
      letter={rows[0]?.letter ?? ''}
    />
  {/each}
  <p class="quiet key">
    Outlined: as estimated before anything was read. Filled: taken together. The scale ends at ± 60
    %. Last column: the reading that narrows a figure most, and to what.
  </p>
{/if}

<style>
  .next {
    border-left: 4px solid var(--color-primary);
    padding: 0.2rem 0.7rem;
  }
  .unlike {
    border-left: 4px solid var(--color-warning);
    padding: 0.2rem 0.7rem;
    margin-top: 0.5rem;
  }
  .unlike ul {
    list-style: disc;
    padding-left: 1.2rem;
  }
  .unlike a {
    text-decoration: underline;
  }
  .key {
    margin-top: 0.8rem;
    max-width: 44rem;
  }
</style>
