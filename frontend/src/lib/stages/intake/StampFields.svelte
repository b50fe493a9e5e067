<script lang="ts">
  import { STAMPS } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';

  interface Props {
    /** The cylinder whose stamp it is. */
    path: string;
  }
  let { path }: Props = $props();
</script>

<TextField
  path={`${path}.stamped`}
  label="Last date stamped"
  placeholder="04 19"
  hint="Month and year, on its collar."
/>
<ChoiceField path={`${path}.stamp`} label="What that date is" options={STAMPS} />
