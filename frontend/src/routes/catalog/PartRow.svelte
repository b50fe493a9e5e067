<script lang="ts">
  import { tick } from 'svelte';
  import { api, ask } from '$lib/api/client';
  import PartForm from './PartForm.svelte';
  import { money } from '$lib/ui/money.svelte';
  import type { components } from '$lib/api/schema';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    one: components['schemas']['CatalogPartOut'];
    open: boolean;
    toggle: () => void;
  }
  let { one, open, toggle }: Props = $props();
  let cells = $state.raw<Record<string, string>>();
  let another = $state(false);
  let row = $state<HTMLButtonElement>();

  async function done() {
    cells = undefined;
    await tick();
    row?.focus();
  }

  async function change(like: boolean) {
    const params = { path: { key: one.part.key } };
    cells = (await ask(api.GET('/api/catalog/parts/{key}', { params }))).cells;
    another = like;
  }
</script>

<tr data-part={one.part.key}>
  <td class="num whitespace-nowrap">{one.part.number}</td>
  <td>
    <button type="button" bind:this={row} aria-expanded={open} onclick={toggle}
      >{one.part.name}</button
    >
    {#if one.own}<span class="text-[.82rem] text-primary ml-[.4rem]">this shop's</span>{/if}
  </td>
  <td class="wide quiet">{one.inlet}</td>
  <td class="wide quiet">{one.outlet}</td>
  <td class="n num">{one.part.site ? '' : one.part.stock}</td>
  <td class="n num">{one.part.site ? 'on site' : money(one.part.price ?? 0)}</td>
</tr>
{#if open}
  <tr class="more">
    <td></td>
    <td colspan="5">
      <dl>
        <dt>maker</dt>
        <dd>{one.part.maker}</dd>
        {#each one.facts as fact (fact.label)}<dt>{fact.label}</dt>
          <dd>{fact[prefs.system]}</dd>{/each}
      </dl>
      {#if cells}
        <PartForm
          was={another ? '' : one.part.key}
          cells={another ? { ...cells, number: '' } : cells}
          {done}
        />
      {:else if !one.part.site}
        <p class="acts">
          <button class="btn btn-sm" onclick={() => void change(false)}>Change</button>
          <button class="btn btn-sm" onclick={() => void change(true)}>Another like it</button>
        </p>
      {/if}
    </td>
  </tr>
{/if}

<style>
  td {
    border-top: 1px solid var(--rule);
    padding: 0.28rem 0.8rem 0.28rem 0;
    vertical-align: top;
  }
  .more td {
    border: 0;
  }
  td > button {
    text-align: left;
    cursor: pointer;
  }
  td > button:hover {
    text-decoration: underline;
  }
  .acts {
    display: flex;
    gap: 0.5rem;
    padding-bottom: 0.5rem;
  }

  .n {
    text-align: right;
    white-space: nowrap;
  }
  dl {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(6rem, max-content) minmax(6rem, 1fr));
    gap: 0.1rem 0.9rem;
    font-size: 0.9rem;
    padding-bottom: 0.5rem;
  }
  dt {
    color: var(--muted);
  }
</style>
