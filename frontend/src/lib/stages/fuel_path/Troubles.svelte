<script lang="ts">
  import type { Train, Trouble } from '$lib/api/client';
  import { pageOf } from '$lib/frame/current.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    train: Train;
    bench: Workbench;
  }
  let { train, bench }: Props = $props();
  const job = useJob();
  let repairable = $derived(train.troubles.some((one) => one.severity === 'stop'));

  function mend(trouble: Trouble) {
    bench.select(trouble.slot);
    if (trouble.mend === 'bridge') void bench.edit({ op: 'bridge', slot: trouble.slot });
    else if (trouble.mend === 'turn') void bench.edit({ op: 'turn', slot: trouble.slot });
    else void bench.propose(train.template, 'repair');
  }
  const WORDS: Record<string, string> = { stop: 'Stop', not_known: 'Not known' };
  const VERBS: Record<string, string> = {
    bridge: 'Bridge it',
    turn: 'Turn it round',
    solve: 'Repair the train',
    'second stage': 'Repair the train'
  };
</script>

{#if train.troubles.length}
  <ul aria-label="What is wrong with this train" aria-live="polite">
    {#each train.troubles as trouble (`${trouble.rule}.${trouble.slot}.${trouble.text}`)}
      <li class={trouble.severity} data-trouble={trouble.rule} data-at={trouble.slot}>
        <div>
          <p>
            <strong>{WORDS[trouble.severity] ?? 'Caution'}</strong> ·
            <button type="button" class="go" onclick={() => bench.select(trouble.slot)}
              >{trouble.text}</button
            >
          </p>
          {#if trouble.amounts.length}
            <p class="num amounts">
              {#each trouble.amounts as amount (amount.label)}
                <span>{amount.label} <b>{amount[prefs.system]}</b></span>
              {/each}
            </p>
          {/if}
          <p class="quiet">
            {trouble.why}{#if trouble.mend && !VERBS[trouble.mend]}
              {trouble.mend}{/if}
          </p>
        </div>
        {#if trouble.path}
          <a
            class="btn btn-sm"
            href={`/jobs/${job().id}/${pageOf(trouble.path)}?field=${trouble.path}`}>Say it</a
          >
        {/if}
        {#if VERBS[trouble.mend]}
          <button class="btn btn-sm" disabled={bench.busy} onclick={() => mend(trouble)}
            >{VERBS[trouble.mend]}</button
          >
        {/if}
      </li>
    {/each}
  </ul>
{:else if train.places.length}
  <p class="fine" data-fine>Every joint mates and every device gets what it needs, on paper.</p>
{/if}
{#if repairable}
  <p class="quiet text-[.85rem]">A stop can't be signed off.</p>
{/if}

<style>
  li {
    display: flex;
    justify-content: space-between;
    align-items: start;
    gap: 0.8rem;
    border-left: 3px solid var(--color-primary);
    background: var(--tint);
    border-radius: 0 0.375rem 0.375rem 0;
    padding: 0.5rem 0.75rem;
    margin-bottom: 0.4rem;
  }
  li.not_known {
    border-color: var(--color-warning);
  }
  li.stop {
    border-color: var(--color-error);
    background: var(--stop-tint);
  }
  .go {
    display: inline;
    text-align: left;
    font-weight: 600;
    cursor: pointer;
  }
  .go:hover {
    text-decoration: underline;
  }
  .amounts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 1rem;
    font-size: 0.88rem;
  }
  .btn {
    flex: none;
  }
  .fine {
    border-left: 3px solid var(--color-success);
    padding: 0.35rem 0.75rem;
  }
</style>
