<script lang="ts">
  import { SECURED } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    fasteners: NonNullable<Snapshot['fit']>['fasteners'];
  }
  let { fasteners }: Props = $props();
  const job = useJob();
  let held = $derived(job().settled?.job.fit);
  type Row = { count?: number | null; size?: string; hidden?: string; first?: string };
  function screw(key: string, change: Record<string, unknown>) {
    const now = (job().latest(`fit.fasteners.${key}`) as object | undefined) ?? {
      count: null,
      size: '',
      hidden: '',
      first: '',
      secured: ''
    };
    job().set(`fit.fasteners.${key}`, { ...now, ...change });
  }
  const COLUMNS = [
    ['size', 'Size', 'M6 × 20'],
    ['hidden', 'Hidden, under what', ''],
    ['first', 'Goes back first', '']
  ] as const;
  const cell = (key: string, name: (typeof COLUMNS)[number][0]) =>
    (held?.fasteners?.[key] as Row | undefined)?.[name] ?? '';
</script>

<section class="section" data-map>
  <h2>Fastener map</h2>
  {#each fasteners as row (row.key)}
    <div class="screws" data-fasteners={row.key}>
      <p>{row.where} <span class="quiet">{row.note}</span></p>
      <label class="few"
        >How many
        <input
          class="input input-sm num"
          type="number"
          min="0"
          max="99"
          value={held?.fasteners?.[row.key]?.count ?? ''}
          onchange={(event) =>
            screw(row.key, {
              count: event.currentTarget.value === '' ? null : event.currentTarget.valueAsNumber
            })}
        /></label
      >
      {#each COLUMNS as [name, text, sample] (name)}
        <label
          >{text}
          <input
            class="input input-sm"
            placeholder={sample}
            value={cell(row.key, name)}
            onchange={(event) => screw(row.key, { [name]: event.currentTarget.value })}
          /></label
        >
      {/each}
      <label
        >Secured by
        <select
          class="select select-sm"
          value={held?.fasteners?.[row.key]?.secured ?? ''}
          onchange={(event) => screw(row.key, { secured: event.currentTarget.value })}
        >
          {#each SECURED as [value, text] (value)}<option {value}>{text}</option>{/each}
        </select></label
      >
    </div>
  {/each}
  {#if !fasteners.length}<p class="quiet">Nothing comes off by this sheet.</p>{/if}
</section>

<style>
  .screws {
    display: grid;
    grid-template-columns: 5rem 1fr 1.3fr 1.3fr 9rem;
    gap: 0.2rem 0.7rem;
    border-top: 1px solid var(--rule);
    padding: 0.4rem 0;
  }
  .screws p {
    grid-column: 1 / -1;
  }
  .screws label {
    font-size: 0.84rem;
    color: var(--muted);
  }
  @media (max-width: 700px) {
    .screws {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
