<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';
  import { written } from '$lib/stages/logbook/days';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    key: string;
    one: NonNullable<Snapshot['job']['logbook']['upkeep']>[string];
    name: string;
    fresh: boolean;
  }
  let { key, one, name, fresh }: Props = $props();
  const job = useJob();
  let path = $derived(`logbook.upkeep.${key}`);
  const minutes = (path: string, typed: string) =>
    job().set(`${path}.minutes`, typed.trim() === '' ? null : Number(typed));
</script>

<details open={fresh} data-done={one.task}>
  <summary
    ><b>{name}</b>, {written(one.on ?? '') || 'no day'}{one.by ? `, ${one.by}` : ''}{one.found
      ? `: ${one.found}`
      : ''}</summary
  >
  <div class="grid-3">
    <TextField path={`${path}.on`} label="Day" placeholder="2026-11-27" />
    <QuantityField path={`${path}.meter`} />
    <TextField path={`${path}.found`} label="What was found" />
    {#if one.task?.startsWith('lash')}
      <QuantityField path={`${path}.lash`} />
      <QuantityField path={`${path}.set_to`} hint="Empty where it was left as found." />
    {/if}
    <TextField path={`${path}.parts`} label="Parts put in" />
    <TextField path={`${path}.by`} label="Done by" />
    <div class="field">
      <label for={`${key}-min`}>Minutes</label>
      <input
        id={`${key}-min`}
        class="input num"
        type="number"
        min="0"
        value={one.minutes ?? ''}
        onchange={(e) => minutes(path, e.currentTarget.value)}
      />
      <p class="says wrong" aria-live="polite">
        {job().errors[`${path}.minutes`] ?? '\u00a0'}
      </p>
    </div>
    <TextField path={`${path}.note`} label="Note" rows={2} />
  </div>
  {#if one.task !== 'leak'}
    <Tick path={`${path}.opened`} checked={Boolean(one.opened)}
      >a gas joint or the carburetor was opened: soap it before it runs</Tick
    >
  {/if}
  <Photos subject={path} label="this upkeep" />
  <button class="btn btn-ghost btn-sm" onclick={() => job().remove(path)}
    ><Trash size={14} />Remove</button
  >
</details>

<style>
  details {
    border-bottom: 1px solid var(--rule);
    padding: 0.4rem 0;
  }
  summary {
    cursor: pointer;
  }
</style>
