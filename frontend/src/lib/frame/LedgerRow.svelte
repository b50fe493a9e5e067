<script lang="ts">
  import { grouped } from '$lib/ui/numbers';
  import type { Snippet } from 'svelte';
  import type { Figure as FigureType } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    label: string;
    figure: FigureType;
    note?: string;
    signed?: boolean;
    mark?: Snippet;
  }
  let { label, figure, note = '', signed = false, mark }: Props = $props();
  const job = useJob();
  let change = $derived.by(() => {
    const earlier = job().earlier(figure.key)?.[prefs.system];
    const now = figure[prefs.system];
    if (!earlier || earlier.unit !== now.unit || earlier.text === now.text) return '';
    const decimals = now.text.split('.')[1]?.length ?? 0;
    const difference = now.number - earlier.number;
    return `${difference < 0 ? '−' : '+'}${grouped(Math.abs(difference), decimals)}`;
  });
</script>

<div class="line" data-ledger={figure.key}>
  {@render mark?.()}
  <span class="label">{label}</span>
  <Figure {figure} {signed} />
  {#if change || note}
    <span class="note">
      {#if note}<span>{note}</span>{/if}
      {#if change}<span class="change text-primary font-semibold ml-auto num" aria-live="polite"
          >{change} by this change</span
        >{/if}
    </span>
  {/if}
</div>

<style>
  .line {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    column-gap: 0.5rem;
    align-items: baseline;
    border-top: 1px solid var(--rule);
    padding: 0.32rem 0;
  }
  .label {
    grid-column: 2;
    font-weight: 550;
  }
  .note {
    grid-column: 2 / -1;
    display: flex;
    justify-content: space-between;
    flex-wrap: wrap;
    gap: 0.5rem;
    font-size: 0.8rem;
    color: var(--muted);
  }
</style>
