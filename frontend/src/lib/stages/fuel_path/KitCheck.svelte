<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { money } from '$lib/ui/money.svelte';
  import { api, ask, Refusal, type Bill } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    bill: Bill;
  }
  let { bill }: Props = $props();
  const job = useJob();
  let name = $state('');
  let said = $state('');

  async function make(event: SubmitEvent) {
    event.preventDefault();
    try {
      const made = await ask(
        api.POST('/api/catalog/kits', { body: { job: job().id, name: name.trim() } })
      );
      said = `Kept: ${made.name}, ${made.parts} parts.`;
      name = '';
      await job().refresh();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      said = error.errors[0]?.message ?? error.message;
    }
  }
  let kit = $derived(bill.kit);
  let ruledOut = $derived(bill.kits.find((one) => one.key === kit?.key)?.ruled_out ?? '');
  let rows = $derived(
    kit
      ? ([
          ['missing', 'Missing for this job', kit.missing],
          ['left', 'Left over', kit.left_over],
          ['covers', 'Covered', kit.covers]
        ] as const)
      : []
  );
</script>

<section class="section" data-kit={kit?.key ?? ''}>
  <h2>Kit</h2>
  <label class="which"
    >Check a kit against this job
    <select
      class="select select-sm"
      value={job().settled?.job.kit ?? ''}
      onchange={(event) => job().set('kit', event.currentTarget.value)}
    >
      <option value="">none</option>
      {#each bill.kits as one (one.key)}
        <option value={one.key}
          >{one.name}, {money(one.price)}{one.ruled_out ? ', not for this set' : ''}</option
        >
      {/each}
    </select>
  </label>
  <form class="make no-print" onsubmit={make}>
    <input
      class="input input-sm"
      bind:value={name}
      placeholder="Name of a kit"
      aria-label="Name of a kit"
    />
    <button class="btn btn-sm" disabled={!name.trim()}>Keep this list as a kit</button>
    {#if said}<span role="status">{said}</span>{/if}
  </form>
  {#if ruledOut}<p class="text-error font-semibold" data-ruled-out>
      Not for this set: {ruledOut}.
    </p>{/if}
  {#if kit}
    <p>
      {money(kit.price)} for the kit and {money(kit.missing_price)} for what it lacks; part by part the
      job takes {money(bill.price)}.
    </p>
    <div class="cols">
      {#each rows as [key, title, lines] (key)}
        <div>
          <h3>{title} <span class="quiet">{lines.length}</span></h3>
          <ul data-kit-list={key}>
            {#each lines as line (line.number)}
              <li>
                <span class="num">{line.count[prefs.system]} ×</span>
                {line.name} <span class="quiet">{line.what_for}</span>
              </li>
            {/each}
          </ul>
        </div>
      {/each}
    </div>
  {/if}
</section>

<style>
  .which {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
  }
  .which .select {
    width: auto;
    max-width: 100%;
  }
  .make {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: center;
    margin-top: 0.5rem;
  }
  .make .input {
    width: 14rem;
  }
  .cols {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(14rem, 1fr));
    gap: 0 1.5rem;
  }
  h3 {
    font-weight: 650;
    margin-top: 0.6rem;
  }
  li {
    border-top: 1px solid var(--rule);
    padding: 0.25rem 0;
    font-size: 0.9rem;
  }
  li .quiet {
    display: block;
    font-size: 0.85rem;
  }
</style>
