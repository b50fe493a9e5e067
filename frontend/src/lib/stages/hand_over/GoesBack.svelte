<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { today } from '$lib/stages/logbook/days';

  interface Props {
    deposit: string;
  }
  let { deposit }: Props = $props();
  const job = useJob();
  let core = $derived(job().settled?.job.hand_over?.core);
</script>

<section class="section" data-field="hand_over.core">
  <h2>
    What goes back, what stays
    {#if deposit}<span class="quiet num">{deposit} deposit</span>{/if}
  </h2>
  <div class="grid-3">
    <TextField path="hand_over.core.what" label="Old part that goes back" />
    <QuantityField path="hand_over.core.deposit" />
    {#if deposit}
      <TextField path="hand_over.core.due" label="Goes back by" placeholder={today()} />
      <TextField path="hand_over.core.sent" label="Sent on" placeholder={today()} />
    {/if}
  </div>
  {#if deposit}
    <Tick
      path="hand_over.core.by"
      checked={Boolean(core?.by)}
      change={(on) => job().set('hand_over.core.by', on ? prefs.who || 'the shop' : '')}
      >The owner was told {core?.by ? `by ${core.by}` : ''}</Tick
    >
  {/if}
  <TextField path="hand_over.stays" label="Stays with the owner" rows={2} />
</section>
