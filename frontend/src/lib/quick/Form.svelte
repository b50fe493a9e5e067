<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask, type Answered, type QuickForm } from '$lib/api/client';
  import Answers from './Answers.svelte';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  interface Props {
    form: QuickForm;
  }
  let { form }: Props = $props();
  // The page keys this component by the form, so its fields are made once for it.
  // svelte-ignore state_referenced_locally
  const quantities = form.fields
    .filter((field) => field.quantity)
    .map(({ name, kind, default: begins, sample }) => {
      return new TypedQuantity(name, kind, typeof begins === 'number' ? begins : undefined, sample);
    });
  // svelte-ignore state_referenced_locally
  let choices = $state<Record<string, string>>(
    Object.fromEntries(
      form.fields.filter((field) => !field.quantity).map((one) => [one.name, String(one.default)])
    )
  );
  let asked = $derived(
    form.fields.filter(
      ({ when }) => !when.field || when.is_one_of.includes(choices[when.field] ?? '')
    )
  );
  let names = $derived(new Set(asked.map((field) => field.name)));
  let missing = $derived(
    asked.filter(
      (one) =>
        one.quantity &&
        one.sample &&
        quantities.find(({ name }) => name === one.name)?.value === undefined
    )
  );
  let unread = $derived(quantities.some((one) => one.error && names.has(one.name)));
  let values = $derived(
    Object.fromEntries(
      [
        ...quantities.map((one) => [one.name, one.value ?? null]),
        ...Object.entries(choices)
      ].filter(([name]) => names.has(String(name)))
    ) as Record<string, number | string | null>
  );
  /** Every form's operation takes its own fields and answers alike; the address is its key. */
  const post = (key: string, body: unknown): Promise<Answered> =>
    ask(api.POST(`/api/quick/${key}` as '/api/quick/u-tube', { body: body as never }));
  const answer = createQuery(() => ({
    queryKey: ['quick', form.key, values],
    queryFn: () => post(form.key, values),
    enabled: !missing.length && !unread,
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  {#each asked as field (field.name)}
    {@const quantity = quantities.find((one) => one.name === field.name)}
    {@const given = missing.includes(field) ? 'Give this first.' : ''}
    {#if quantity}
      <TypedField
        {quantity}
        label={field.label}
        assumed={field.assumed}
        fault={given || (wrong[field.name] ?? '')}
      />
    {:else}
      <label class="field" data-quick={field.name}
        ><span>{field.label}</span>
        <select class="select" bind:value={choices[field.name]}>
          {#each field.options as option (option.value)}
            <option value={option.value}>{option.text}</option>
          {/each}
        </select>
        <span class="says" class:wrong={wrong[field.name]}>{wrong[field.name] ?? '\u00a0'}</span>
      </label>
    {/if}
  {/each}
</div>

{#if answer.data && !answer.isError && !missing.length && !unread}
  <Answers answer={answer.data} />
{/if}
<p class="quiet">{form.caution}</p>
