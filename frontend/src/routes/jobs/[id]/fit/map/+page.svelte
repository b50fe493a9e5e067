<script lang="ts">
  import { GASKETS, LEFT_KINDS, LEFT_STATES, NUTS, SECURED, UNDOING } from '$lib/api/published';
  import Tick from '$lib/ui/Tick.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { signed } from '$lib/session/record';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let fit = $derived(job().now?.fit ?? job().settled?.fit);
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

  function back(key: string, what: string, change: Record<string, unknown>) {
    const now = (job().latest(`fit.back.${key}`) as object | undefined) ?? {
      what,
      tag: '',
      to: 'owner',
      back: false,
      by: '',
      on: ''
    };
    job().set(`fit.back.${key}`, { ...now, ...change });
  }
</script>

<SheetHead title="Screws and holes" text="What came off, what was cut, what somebody gets back." />

{#if fit}
  <section class="section first" data-closed>
    <h2>At the intake</h2>
    <div class="grid-3">
      <ChoiceField path="fit.gaskets" label="Gaskets" options={GASKETS} />
      <ChoiceField path="fit.nuts" label="Nuts on their studs" options={NUTS} />
    </div>
  </section>
  <section class="section" data-map>
    <h2>Fastener map</h2>
    {#each fit.fasteners as row (row.key)}
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
    {#if !fit.fasteners.length}<p class="quiet">Nothing comes off by this sheet.</p>{/if}
  </section>
  <Rows
    path="fit.left"
    prefix="h"
    title="Left on the machine"
    text="Holes, cuts and bends that were not there before, and whether they can be undone."
    add="Note one"
    fresh={{ kind: 'hole', what: 'hole', state: 'used', ...signed() }}
  >
    {#snippet row(path)}
      <div class="grid-3">
        <ChoiceField path={`${path}.kind`} label="What" options={LEFT_KINDS} />
        <TextField path={`${path}.what`} label="Where, how large" />
        <ChoiceField path={`${path}.state`} label="It is" options={LEFT_STATES} />
        <ChoiceField path={`${path}.undo`} label="Undone" options={UNDOING} />
      </div>
      <Photos subject={path} label="this mark" />
    {/snippet}
  </Rows>
  <section class="section">
    <h2>Comes back</h2>
    {#each fit.back as row (row.key)}
      <div class="row" data-back={row.key}>
        <Tick
          path={`fit.back.${row.key}`}
          checked={held?.back?.[row.key]?.back ?? false}
          change={(on) => back(row.key, row.what, { back: on, ...signed() })}
          >{row.what} <span class="quiet">{row.why}</span></Tick
        >
        <label class="w-48"
          ><span class="sr">Tag of {row.what}</span>
          <input
            class="input input-sm"
            placeholder="what its tag says"
            value={held?.back?.[row.key]?.tag ?? ''}
            onchange={(event) => back(row.key, row.what, { tag: event.currentTarget.value })}
          /></label
        >
        <select
          class="select select-sm"
          aria-label={`Who gets ${row.what}`}
          value={held?.back?.[row.key]?.to ?? 'owner'}
          onchange={(event) => back(row.key, row.what, { to: event.currentTarget.value })}
        >
          <option value="owner">to the owner</option>
          <option value="supplier">to the supplier</option>
          <option value="shop">stays here</option>
        </select>
      </div>
    {/each}
    <button class="btn btn-sm" onclick={() => back(`b${Date.now().toString(36)}`, 'bracket', {})}
      >Add a part</button
    >
  </section>
{/if}

<style>
  .first {
    border-top: 0;
    margin-top: 0;
  }
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
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.8rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.35rem 0;
  }
  .row > :global([data-field]) {
    flex: 1;
    min-width: 15rem;
  }
  .row .select {
    width: 10rem;
  }

  section > .btn {
    margin-top: 0.5rem;
  }
  @media (max-width: 700px) {
    .screws {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
