<script lang="ts">
  import type { FullAutoFill } from 'svelte/elements';

  /** A passphrase or a code, never shown. */
  interface Props {
    label: string;
    value: string;
    autocomplete: FullAutoFill;
    digits?: boolean;
    placeholder?: string;
    hint?: string;
    wrong?: string;
  }
  let {
    label,
    value = $bindable(),
    autocomplete,
    digits = false,
    placeholder,
    hint = '',
    wrong = ''
  }: Props = $props();
  const id = $props.id();
</script>

<div>
  <label for={id}>{label}</label>
  <input
    {id}
    class="input w-full"
    class:num={digits}
    type="password"
    inputmode={digits ? 'numeric' : undefined}
    {autocomplete}
    {placeholder}
    bind:value
    aria-invalid={wrong !== ''}
    aria-describedby={`${id}-says`}
  />
  <p id={`${id}-says`} class={wrong ? 'text-error font-semibold' : 'quiet'}>{wrong || hint}</p>
</div>
