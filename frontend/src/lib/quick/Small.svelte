<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask, type SmallAnswer } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  interface Props {
    form: SmallAnswer;
  }
  let { form }: Props = $props();
  // The page keys this component by the form, so its fields are made once for it.
  // svelte-ignore state_referenced_locally
  const quantities = form.fields
    .filter((field) => field.kind !== 'choice')
    .map(
      (field) =>
        new TypedQuantity(
          field.name,
          field.kind,
          typeof field.default === 'number' ? field.default : undefined,
          field.sample
        )
    );
  // svelte-ignore state_referenced_locally
  let choices = $state<Record<string, string>>(
    Object.fromEntries(
      form.fields
        .filter((field) => field.kind === 'choice')
        .map((field) => [field.name, String(field.default)])
    )
  );
  let values = $derived({
    ...Object.fromEntries(quantities.map((one) => [one.name, one.value ?? null])),
    ...choices
  });
  const answer = createQuery(() => ({
    queryKey: ['quick', form.key, values],
    queryFn: () =>
      ask(api.POST('/api/quick/{name}', { params: { path: { name: form.key } }, body: values })),
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  {#each form.fields as field (field.name)}
    {@const quantity = quantities.find((one) => one.name === field.name)}
    {#if quantity}
      <TypedField
        {quantity}
        label={field.label}
        assumed={field.assumed}
        fault={wrong[field.name] ?? ''}
      />
    {:else}
      <label class="field"
        ><span>{field.label}</span>
        <select class="select" bind:value={choices[field.name]}>
          {#each field.options as option (option.value)}
            <option value={option.value}>{option.text}</option>
          {/each}
        </select>
      </label>
    {/if}
  {/each}
</div>

{#if answer.data && !answer.isError}
  <table class="answers">
    <tbody>
      {#each answer.data as figure (figure.key)}
        <tr>
          <th>
            {figure.label}
            {#each figure.warnings as note (note)}<span class="note">{note}</span>{/each}
          </th>
          <td><Figure {figure} band warned={false} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
<p class="quiet">{form.caution}</p>

<style>
  table {
    margin: 1rem 0;
    max-width: 40rem;
  }
  td {
    padding: 0.35rem 0;
  }
  .note {
    display: block;
    font-weight: 400;
    font-size: 0.85rem;
    color: var(--color-primary);
  }
</style>
