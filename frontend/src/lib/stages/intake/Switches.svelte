<script lang="ts">
  import Trash from '@lucide/svelte/icons/trash-2';
  import { at, newKey } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import Photos from './Photos.svelte';

  type Position = Record<(typeof DOES)[number][0], boolean>;
  const DOES = [
    ['sparks', 'ignition on'],
    ['own', 'own tank open'],
    ['remote', 'remote tank open'],
    ['choked', 'choke shut'],
    ['short', 'kills at its end: stop short']
  ] as const;
  const job = useJob();
  const positions = (path: string) =>
    (at(job().settled?.job, `${path}.positions`) ?? {}) as Record<string, Position>;

  function another(path: string) {
    job().set(`${path}.positions.${newKey('p', positions(path))}`, { sparks: false });
  }
</script>

<Rows
  path="set.switches"
  prefix="w"
  title="Switches, dials and selectors"
  text="Each position as it is printed there, with what it cuts or connects. Fuel states, orders of handles, label and cards follow it."
  add="Add a switch"
  fresh={{ name: '' }}
>
  {#snippet row(path)}
    <TextField path={`${path}.name`} label="Switch" placeholder="fuel dial" />
    {#each Object.entries(positions(path)) as [key, position] (key)}
      {@const place = `${path}.positions.${key}`}
      <div class="position" data-position={key}>
        <TextField path={`${place}.name`} label="Position" placeholder="FUEL OFF" />
        <div class="does">
          {#each DOES as [does, text] (does)}
            <Tick path={`${place}.${does}`} checked={position[does]}>{text}</Tick>
          {/each}
        </div>
        <TextField path={`${place}.becomes`} label="Becomes, on gas" placeholder="GAS" />
        <button
          class="btn btn-ghost btn-sm"
          aria-label="Remove this position"
          title="Remove (undo brings it back)"
          onclick={() => job().remove(place)}><Trash size={16} /></button
        >
      </div>
    {/each}
    <button class="btn btn-sm" onclick={() => another(path)}>Add a position</button>
    <Photos subject={path} label="this switch" />
  {/snippet}
</Rows>

<style>
  .position {
    display: grid;
    grid-template-columns: 9rem 1fr 9rem auto;
    gap: 0.2rem 0.8rem;
    align-items: start;
  }
  .does {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 1rem;
    padding-top: 1.5rem;
  }
  .position > .btn {
    margin-top: 1.6rem;
  }
  @media (max-width: 700px) {
    .position {
      grid-template-columns: 1fr auto;
    }
    .does {
      grid-column: 1 / -1;
      padding-top: 0;
    }
  }
</style>
