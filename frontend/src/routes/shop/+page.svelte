<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';
  import { forgetReference } from '$lib/session/reference';
  import TypedField from '$lib/quick/TypedField.svelte';
  import { TypedQuantity } from '$lib/quick/quantity.svelte';
  import type { components } from '$lib/api/schema';
  import Backups from '$lib/frame/Backups.svelte';
  import ShopLogo from '$lib/frame/ShopLogo.svelte';

  type Front = components['schemas']['ShopFront'];
  const client = useQueryClient();
  const kept = createQuery(() => ({
    queryKey: ['shop'],
    queryFn: () => ask(api.GET('/api/shop'))
  }));
  let typed = $state<Record<string, string | boolean | number>>({});
  let errors = $state<Record<string, string>>({});
  let saved = $state('');
  let front = $derived(kept.data);
  const LINES = [
    ['name', 'Name of the shop'],
    ['license', 'License numbers'],
    ['currency', 'Currency']
  ] as const;
  const BLOCKS = [
    ['address', 'Address'],
    ['contact', 'Phone and mail'],
    ['terms', 'Terms of payment, under each invoice']
  ] as const;
  const shown = (key: keyof Front): string => String(typed[key] ?? front?.[key] ?? '');
  const numbers = {
    rate: new TypedQuantity('rate', 'money'),
    tax: new TypedQuantity('tax', 'share')
  };
  let touched = $derived(
    Object.keys(typed).length > 0 || Object.values(numbers).some((one) => one.text)
  );

  async function save() {
    if (!front) return;
    errors = {};
    saved = '';
    const body = { ...front, ...typed } as unknown as Front;
    for (const one of Object.values(numbers)) {
      if (!one.text.trim()) continue;
      await one.type(one.text);
      if (one.value === undefined) return;
      body[one.name as 'rate' | 'tax'] = one.value;
    }
    try {
      const now = await ask(api.PUT('/api/shop', { body }));
      client.setQueryData(['shop'], now);
      void forgetReference(client);
      typed = {};
      for (const one of Object.values(numbers)) void one.type('');
      saved = 'Saved. Invoices and records read it from now on.';
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      errors = Object.fromEntries(error.errors.map((one) => [one.path, one.message]));
      if (!error.errors.length) errors = { name: error.message };
    }
  }
</script>

<svelte:head><title>The shop · Gentle Ember</title></svelte:head>

{#snippet says(key: string)}
  <p class="says" class:wrong={errors[key]} aria-live="polite">{errors[key] ?? '\u00a0'}</p>
{/snippet}

<main id="sheet" tabindex="-1">
  <h1>The shop</h1>
  <p class="quiet">As its papers name it: records of work and invoices read it from here.</p>
  {#if front}
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div class="grid-3">
        {#each LINES as [key, label] (key)}
          <div class="field">
            <label for={key}>{label}</label>
            <input
              id={key}
              class="input"
              value={shown(key)}
              oninput={(e) => (typed[key] = e.currentTarget.value)}
            />
            {@render says(key)}
          </div>
        {/each}
        <TypedField
          quantity={numbers.rate}
          label="Rate an hour"
          assumed={front.rate === null
            ? 'not set'
            : `${front.currency} ${front.rate.toFixed(2)}`.trim()}
          fault={errors.rate}
        />
        <TypedField
          quantity={numbers.tax}
          label="Tax"
          assumed={`${Number((front.tax * 100).toFixed(3))} %`}
          fault={errors.tax}
        />
        <div class="field">
          <label for="units">Units of its papers</label>
          <select
            id="units"
            class="select"
            value={shown('units')}
            onchange={(e) => (typed.units = e.currentTarget.value)}
          >
            <option value="us">US</option>
            <option value="metric">metric</option>
          </select>
          {@render says('units')}
        </div>
      </div>
      <label class="flex gap-2 items-center">
        <input
          type="checkbox"
          class="checkbox checkbox-sm"
          checked={Boolean(typed.tax_labor ?? front.tax_labor)}
          onchange={(e) => (typed.tax_labor = e.currentTarget.checked)}
        />Work is taxed as parts are
      </label>
      <div class="grid-3 mt-3">
        {#each BLOCKS as [key, label] (key)}
          <div class="field">
            <label for={key}>{label}</label>
            <textarea
              id={key}
              class="textarea"
              rows="3"
              value={shown(key)}
              oninput={(e) => (typed[key] = e.currentTarget.value)}></textarea>
            {@render says(key)}
          </div>
        {/each}
      </div>
      <div class="field">
        <ShopLogo logo={shown('logo')} put={(logo) => (typed.logo = logo)} />
        {@render says('logo')}
      </div>
      <div class="field">
        <label for="backups">Daily backups kept</label>
        <input
          id="backups"
          type="number"
          min="0"
          max="60"
          class="input max-w-[8rem]"
          value={shown('backups')}
          oninput={(e) => (typed.backups = Number(e.currentTarget.value))}
        />
        {@render says('backups')}
      </div>
      <Backups />
      <button class="btn btn-primary" disabled={!touched}>Save</button>
      <span role="status">{saved}</span>
    </form>
  {/if}
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 58rem) / 2)) 2rem;
    outline: none;
  }
  h1 {
    font-size: 1.5rem;
    font-weight: 700;
  }
  form {
    margin-top: 1rem;
  }
</style>
