<script lang="ts">
  import type { GasMetering } from './bench.svelte';

  interface Props {
    cannot: NonNullable<GasMetering['cannot']>;
  }
  let { cannot }: Props = $props();
</script>

<p class="next text-[1.25rem] font-bold text-error" data-cannot={cannot.why}>
  Cannot be set: {cannot.text}
</p>
<p>Check, in this order:</p>
<ol>
  {#each cannot.checks as text (text)}<li>{text}</li>{/each}
</ol>

<style>
  ol {
    list-style: decimal;
    padding-left: 1.3rem;
  }
</style>
