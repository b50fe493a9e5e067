<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { assumption, useReference } from '$lib/session/reference';
  import type { TypedQuantity } from './quantity.svelte';

  interface Props {
    quantity: TypedQuantity;
    label: string;
    /** What stands in when nothing is given: in words, or a value [SI]. */
    assumed?: string | number;
    /** What the answer found wrong with this one. */
    fault?: string;
  }
  let { quantity, label, assumed = '', fault = '' }: Props = $props();
  const id = $props.id();
  const reference = useReference();
  let sample = $derived(reference.data?.kinds[quantity.kind]?.[`sample_${prefs.system}`] ?? '');
  let stands = $derived(assumption(reference.data, quantity.kind, prefs.system, assumed));
  let error = $derived(quantity.error || fault);
  let read = $derived.by(() => {
    const both = quantity.understood;
    if (!both) return '';
    return both.us === both.metric ? `= ${both.us}` : `= ${both.us} · ${both.metric}`;
  });
</script>

<div class="field" data-quick={quantity.name}>
  <label for={id}>{label}</label>
  <input
    {id}
    class="input num"
    class:input-error={error}
    placeholder={stands || `like ${sample}`}
    autocomplete="off"
    spellcheck="false"
    value={quantity.text}
    aria-invalid={Boolean(error)}
    aria-describedby={`${id}-says`}
    oninput={(event) => void quantity.type(event.currentTarget.value)}
  />
  <p id={`${id}-says`} class="says" class:wrong={error} aria-live="polite">
    {error || read || '\u00a0'}
  </p>
</div>
