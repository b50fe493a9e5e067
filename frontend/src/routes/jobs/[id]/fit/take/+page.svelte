<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let fit = $derived(job().now?.fit ?? job().settled?.fit);
  const TITLES = { tool: 'Tools', consumable: 'Consumables', part: 'Parts' } as const;
  const has = (key: string, packed: boolean) => {
    const waiting = job().pending(`fit.packed.${key}`)?.value as { done?: boolean } | undefined;
    return waiting ? Boolean(waiting.done) : packed;
  };
  let open = $derived((fit?.take ?? []).filter((one) => !has(one.key, one.packed)).length);

  function pack(key: string, done: boolean) {
    job().set(`fit.packed.${key}`, { done, by: done ? prefs.who : '' });
  }
</script>

<SheetHead
  title="Take along"
  text={fit?.take.length
    ? open
      ? `${open} of ${fit.take.length} not packed yet.`
      : 'Everything is packed.'
    : ''}
/>

{#each Object.entries(TITLES) as [kind, title] (kind)}
  {@const rows = (fit?.take ?? []).filter((one) => one.kind === kind)}
  {#if rows.length}
    <section>
      <h2>{title}</h2>
      <ul>
        {#each rows as one (one.key)}
          <li class:packed={has(one.key, one.packed)}>
            <Tick
              path={`fit.packed.${one.key}`}
              checked={has(one.key, one.packed)}
              change={(on) => pack(one.key, on)}
              large
            >
              <span class="what"
                >{#if one.count}<span class="num">{one.count[prefs.system]}</span>{/if}
                {one.what}</span
              >
            </Tick>
            <span class="quiet uses"
              >{one.uses.length > 1 ? `${one.uses.length} uses` : one.uses[0]}</span
            >
          </li>
        {/each}
      </ul>
    </section>
  {/if}
{/each}
{#if fit && !fit.take.length}<p class="quiet">Nothing yet: the sheet is not made.</p>{/if}

<style>
  h2 {
    font-weight: 700;
    margin: 0.8rem 0 0.2rem;
  }
  ul {
    columns: 2;
    column-gap: 2rem;
  }
  li {
    break-inside: avoid;
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0;
  }
  .packed .what {
    color: var(--muted);
  }
  .uses {
    display: block;
    font-size: 0.82rem;
    padding-left: 2.1rem;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  @media (max-width: 700px) {
    ul {
      columns: 1;
    }
    li {
      padding: 0.5rem 0;
    }
  }
</style>
