<script lang="ts">
  import type { Judged } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    judged: Judged;
    reasons: Judged['reasons'];
  }
  let { judged, reasons }: Props = $props();
  const job = useJob();
  const WORDS = {
    fits: 'for',
    fits_with_work: 'work',
    not_known: 'measure',
    does_not_fit: 'against'
  } as Record<string, string>;
  const TEXTS = [
    ['changes', 'Changes'],
    ['keeps', 'Keeps'],
    ['loses', 'Loses'],
    ['change_over', 'Change-over'],
    ['choke', 'Choke'],
    ['metering', 'Metering'],
    ['cannot_undo', "Can't be undone"],
    ['risk', 'Mind']
  ] as const;
</script>

<div class="more">
  <ul>
    {#each reasons as reason (reason.path + reason.text)}
      <li class={reason.verdict}>
        <span class="word">{WORDS[reason.verdict]}</span>
        <span
          >{reason.text}
          <a
            href={`/jobs/${job().id}/${pageOf(reason.path)}?field=${reason.path}`}
            aria-label={`Go to the fact: ${reason.text}`}
            >{reason.verdict === 'not_known' ? 'measure' : 'fact'}</a
          ></span
        >
      </li>
    {/each}
  </ul>
  <div>
    {#each judged.figures as figure (figure.key)}
      <p class="fig"><span>{figure.label}</span><Figure {figure} /></p>
    {/each}
    <dl>
      {#each TEXTS as [key, label] (key)}
        {#if judged.texts[key]}<dt>{label}</dt>
          <dd>{judged.texts[key]}</dd>{/if}
      {/each}
    </dl>
  </div>
</div>

<style>
  .verdict {
    font-size: 0.88rem;
  }
  .more {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 1.4rem;
    padding: 0.5rem 0;
    font-size: 0.9rem;
  }
  li {
    display: grid;
    grid-template-columns: 4.4rem 1fr;
    padding: 0.15rem 0;
  }
  .word {
    color: var(--muted);
    font-size: 0.82rem;
  }
  li.does_not_fit .word {
    color: var(--color-error);
    font-weight: 700;
  }
  li.not_known .word {
    color: var(--color-warning);
    font-weight: 700;
  }
  a {
    text-decoration: underline;
    color: var(--muted);
    font-size: 0.82rem;
  }
  .fig {
    display: flex;
    justify-content: space-between;
    border-bottom: 1px dotted var(--rule);
    padding-bottom: 0.2rem;
    margin-bottom: 0.3rem;
  }
  dl {
    display: grid;
    grid-template-columns: 6.6rem 1fr;
    gap: 0.15rem 0.5rem;
  }
  dt {
    color: var(--muted);
    font-size: 0.82rem;
  }
  @media (max-width: 700px) {
    .more {
      grid-template-columns: 1fr;
    }
  }
</style>
