<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import { written } from '$lib/stages/logbook/days';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    last: NonNullable<NonNullable<Snapshot['moves']>['arrived']>;
  }
  let { last }: Props = $props();
  const job = useJob();
</script>

<section class="section" data-arrived={last.left}>
  <h2>At {last.place}, since {written(last.on)}{last.by ? `, by ${last.by}` : ''}</h2>
  <p>
    {#if last.left}<b class="num">{last.left}</b> of
      <span class="num">{last.asked.length}</span> not proven there yet.{:else}All of it is proven
      there.{/if}
  </p>
  {#each last.asked as one (one.key)}
    {@const path = `hand_over.arrivals.${last.key}.proven.${one.key}`}
    <Tick
      {path}
      checked={Boolean(one.by)}
      change={(on) => (on ? job().set(path, prefs.who || 'the shop') : job().remove(path))}
      >{one.text}{one.by ? ` (${one.by})` : ''}</Tick
    >
  {/each}
</section>

<style>
  h2 {
    font-weight: 700;
    margin-top: 1rem;
  }
</style>
