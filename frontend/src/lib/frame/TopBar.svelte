<script lang="ts">
  import Lamp from '@lucide/svelte/icons/lamp';
  import Search from '@lucide/svelte/icons/search';
  import Sun from '@lucide/svelte/icons/sun';
  import { prefs } from '$lib/session/prefs.svelte';
  import { me } from '$lib/session/me.svelte';
  import { current } from './current.svelte';
  import Who from './Who.svelte';
  import SaveState from './SaveState.svelte';

  let session = $derived(current.session);
  let job = $derived(session?.now?.job);
  let site = $derived(job?.sites[job.site]);
  let sites = $derived(Object.entries(job?.sites ?? {}).sort(([a], [b]) => a.localeCompare(b)));
  let machine = $derived([job?.set.maker, job?.set.model].filter(Boolean).join(' '));
</script>

<header class="bar no-print">
  <a href="/" class="brand" aria-label="Gentle Ember, shop board">
    <img src="/ember.svg" alt="" width="24" height="24" /><span>Gentle Ember</span>
  </a>
  {#if session && job}
    <span class="title" title={job.title}>{job.title}</span>
    {#if machine}<span class="chip wide">{machine}</span>{/if}
    {#if sites.length > 1}
      <select
        class="chip wide"
        aria-label="Site on show"
        value={job.site}
        onchange={(event) => session.set('site', event.currentTarget.value)}
      >
        {#each sites as [key, entry] (key)}<option value={key}>{entry.name || key}</option>{/each}
      </select>
    {:else if site?.name}<span class="chip wide">{site.name}</span>{/if}
  {/if}
  <span class="flex-1"></span>
  {#if session}<SaveState {session} />{/if}
  {#if me.may('look')}<button
      class="find"
      onclick={() => (current.finder = true)}
      aria-label="Find or do anything"
    >
      <Search size={16} /><span class="wide">Find or do anything</span><kbd class="wide num">/</kbd>
    </button>{/if}
  <button class="chip units" onclick={() => prefs.toggleUnits()}>
    <span class:on={prefs.system === 'us'}>US</span><span class:on={prefs.system === 'metric'}>
      metric</span
    >
    <span class="sr">, units: now {prefs.system === 'us' ? 'US' : 'metric'}</span></button
  >
  <button
    class="chip icon"
    aria-label={prefs.theme === 'paper' ? 'Lamp light' : 'Daylight'}
    onclick={() => prefs.toggleTheme()}
  >
    {#if prefs.theme === 'paper'}<Lamp size={16} />{:else}<Sun size={16} />{/if}
  </button>
  {#if !me.outside}<Who />{/if}
</header>

<style>
  .bar {
    display: flex;
    align-items: center;
    gap: 0.6rem;
    height: 3.25rem;
    padding: 0 1rem;
    border-bottom: 1px solid var(--rule);
    background: var(--color-base-200);
  }
  .brand {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    font-weight: 750;
    white-space: nowrap;
    padding-right: 0.8rem;
    border-right: 1px solid var(--rule);
  }
  .title {
    font-weight: 650;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 3rem;
  }

  .chip,
  .find {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    background: var(--color-base-100);
    padding: 0.2rem 0.55rem;
    font-size: 0.85rem;
    white-space: nowrap;
    max-width: 13rem;
    overflow: hidden;
    text-overflow: ellipsis;
    min-height: 1.9rem;
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
    flex: none;
  }
  .find {
    color: var(--muted);
    cursor: pointer;
  }
  .find kbd {
    border: 1px solid var(--rule);
    border-radius: 0.25rem;
    padding: 0 0.35rem;
    margin-left: 1rem;
  }
  .units span {
    color: var(--muted);
  }
  .units .on {
    color: var(--color-base-content);
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 0.2em;
  }
  button.chip {
    cursor: pointer;
  }
  @media (max-width: 1100px) {
    .wide {
      display: none;
    }
  }
  @media (max-width: 600px) {
    .bar {
      gap: 0.35rem;
      padding: 0 0.6rem;
    }
    .brand {
      border: 0;
      padding: 0;
    }
    .brand span,
    .icon {
      display: none;
    }
  }
</style>
