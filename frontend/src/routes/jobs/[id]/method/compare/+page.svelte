<script lang="ts">
  import type { Judged } from '$lib/api/client';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import Always from '$lib/frame/Always.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import School from '$lib/stages/method/School.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let methods = $derived(job().now?.methods ?? job().settled?.methods);
  let choice = $derived(job().settled?.job.choice);
  let picked = $derived(choice?.methods ?? []);
  let groups = $derived([
    {
      title: 'Conversions',
      rows: (methods?.judged ?? []).filter((one) => one.kind !== 'instead')
    },
    {
      title: 'Instead',
      rows: (methods?.judged ?? []).filter((one) => one.kind === 'instead')
    }
  ]);

  /** What does not fit stands in one line with its reason, below what does; a chosen one never. */
  const folded = (one: Judged) => one.verdict === 'does_not_fit' && !one.chosen;
  const why = (one: Judged) =>
    one.reasons.find((reason) => reason.verdict === 'does_not_fit')?.text ?? '';

  function choose(key: string) {
    const now = new Date();
    const local = new Date(now.getTime() - now.getTimezoneOffset() * 60_000);
    const judged = methods?.judged ?? [];
    const kind = (one: string) => judged.find((entry) => entry.key === one)?.kind;
    const clash = judged.find((entry) => entry.key === key)?.clash;
    // A school that clashes takes the place of its own kind, or of everything when of another.
    const kept = picked.filter(
      (one) =>
        !clash || (kind(one) !== kind(key) && kind(key) !== 'instead' && kind(one) !== 'instead')
    );
    const next = picked.includes(key) ? picked.filter((one) => one !== key) : [...kept, key];
    job().set('choice', {
      methods: next,
      by: next.length ? prefs.who : '',
      on: next.length ? local.toISOString().slice(0, 10) : '',
      reason: choice?.reason ?? ''
    });
  }
</script>

{#snippet school(judged: Judged)}
  <School
    {judged}
    recommended={methods?.recommended.includes(judged.key) ?? false}
    choose={() => choose(judged.key)}
  />
{/snippet}

<SheetHead
  title="Which method"
  text="Every way of doing it, judged on this set. You decide; the reasons can be checked."
/>

{#if methods}
  <p class="why" data-why>
    {#if methods.recommended.length}<strong>Recommended.</strong>{/if}
    {methods.why}
    <a href="/methods/methods">How it is judged</a>
  </p>
  {#if picked.length}
    <div class="choice" data-field="choice.methods">
      <p>
        <strong>Chosen</strong>{choice?.by ? ` by ${choice.by}` : ''}{choice?.on
          ? ` on ${choice.on}`
          : ''}:
        {picked.map((key) => methods.judged.find((one) => one.key === key)?.name).join(' + ')}
      </p>
      <TextField path="choice.reason" label="Why this one" />
    </div>
  {/if}
  {#if job().errors['choice']}<p class="says wrong" role="alert">{job().errors['choice']}</p>{/if}

  {#each groups as group (group.title)}
    <div class="head">
      <h2>{group.title}</h2>
      <span>puts out</span><span>runs</span><span>parts</span><span>bench</span><span></span>
    </div>
    {#each group.rows.filter((one) => !folded(one)) as judged (judged.key)}
      {@render school(judged)}
    {/each}
    {#each group.rows.filter(folded) as judged (judged.key)}
      <details class="folded" data-folded={judged.key}>
        <summary
          ><b>{judged.name}</b>
          <span class="quiet">does not fit: {why(judged)}</span></summary
        >
        {@render school(judged)}
      </details>
    {/each}
  {/each}
  <Always />
{/if}

<style>
  .folded {
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0;
  }
  .folded summary {
    cursor: pointer;
  }
  .why a {
    text-decoration: underline;
    color: var(--muted);
  }
  .why {
    margin-bottom: 0.5rem;
  }
  .choice {
    background: var(--color-base-100);
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.5rem 0.8rem 0;
    margin-bottom: 0.6rem;
  }
  .head {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 7rem 4.2rem 4.2rem 4.2rem 7.6rem;
    gap: 0.6rem;
    margin-top: 0.9rem;
    padding-left: 0.75rem;
    color: var(--muted);
    font-size: 0.85rem;
    align-items: end;
  }
  .head h2 {
    font-size: 1.1rem;
    font-weight: 700;
    color: var(--color-base-content);
    margin-left: -0.75rem;
  }
  .head span {
    text-align: right;
  }
  @media (max-width: 700px) {
    .head {
      grid-template-columns: 1fr;
    }
    .head span {
      display: none;
    }
  }
</style>
