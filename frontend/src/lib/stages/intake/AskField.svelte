<script lang="ts">
  import type { Ask } from '$lib/api/client';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { MediaQuery } from 'svelte/reactivity';

  const phone = new MediaQuery('max-width: 700px');
  interface Props {
    ask: Ask;
  }
  let { ask }: Props = $props();
  let options = $derived(ask.options.map((one) => [one.value, one.text] as const));
</script>

{#if ask.kind === 'choice'}
  <ChoiceField path={ask.path} label={ask.label} {options} hint={ask.why} thumbs={phone.current} />
{:else if ask.kind === 'quantity'}
  <QuantityField path={ask.path} label={ask.label} hint={ask.why} assumed={ask.assumed} />
{:else}
  <TextField
    path={ask.path}
    label={ask.label}
    hint={ask.why}
    rows={ask.kind === 'long' ? 2 : 1}
    empty={ask.kind === 'number' ? null : ''}
  />
{/if}
