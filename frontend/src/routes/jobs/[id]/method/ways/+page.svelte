<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let shown = $derived(job().now?.ways ?? job().settled?.ways);
  let chosen = $derived((job().settled?.job.choice?.methods ?? []).length > 0);
  let settled = $derived(shown?.ways.some((one) => one.chosen));

  function choose(key: string, way: string) {
    job().setAll([
      { path: `ways.${key}`, value: way },
      { path: 'ways.by', value: signed().by }
    ]);
  }
</script>

<SheetHead
  title="Ways of working"
  text="Where good technicians differ. The default stands until you choose; start gate, orders, fit sheet, parts and leak test follow."
/>

{#if !chosen}
  <p class="quiet">Choose a method first: what is disputed depends on it.</p>
{:else if shown && !shown.ways.length}
  <p class="quiet">Nothing about the chosen method is disputed.</p>
{/if}

<div class="ways">
  {#each shown?.ways ?? [] as way (way.key)}
    <fieldset data-way={way.key}>
      <legend>{way.name}</legend>
      {#each way.options as option (option.key)}
        <label class:off={option.against}>
          <input
            type="radio"
            class="radio radio-sm"
            name={way.key}
            value={option.key}
            checked={(way.chosen || way.default) === option.key}
            disabled={!!option.against}
            onchange={() => choose(way.key, option.key)}
          />
          <span>
            <b>{option.name}</b>{#if option.key === way.default}<span class="quiet"
                >&nbsp;default</span
              >{/if}
            <span class="said">
              {option.against ? `Does not fit: ${option.against}.` : option.follows}
            </span>
          </span>
        </label>
      {/each}
      {#if job().errors[`ways.${way.key}`]}
        <p class="wrong">{job().errors[`ways.${way.key}`]}</p>
      {/if}
    </fieldset>
  {/each}
</div>

{#if settled}
  <div class="why">
    <TextField path="ways.reason" label="Why not the default" rows={2} />
    {#if shown?.by}<p class="quiet">Settled by {shown.by}.</p>{/if}
  </div>
{/if}

<style>
  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(19rem, 1fr));
    gap: 0.7rem;
  }
  fieldset {
    background: var(--color-base-100);
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.4rem 0.9rem 0.6rem;
  }
  legend {
    font-weight: 700;
    padding: 0 0.3rem;
  }
  label {
    display: grid;
    grid-template-columns: 1.4rem 1fr;
    gap: 0.4rem;
    align-items: start;
    padding: 0.3rem 0;
    min-height: 2.75rem;
    cursor: pointer;
  }
  .off {
    color: var(--muted);
    cursor: default;
  }
  .said {
    display: block;
    color: var(--muted);
  }
  input {
    margin-top: 0.15rem;
    accent-color: var(--color-primary);
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
  .why {
    max-width: 40rem;
    margin-top: 0.7rem;
  }
</style>
