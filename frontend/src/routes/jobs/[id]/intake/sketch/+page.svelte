<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import type { SketchItem } from '$lib/api/client';
  import TextField from '$lib/ui/TextField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import SketchBoard from '$lib/stages/intake/SketchBoard.svelte';
  import { newKey } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let key = $derived(job().settled?.job.site ?? 's1');
  let at = $derived(`sites.${key}`);
  let site = $derived(job().settled?.job.sites[key]);
  let items = $derived(site?.sketch?.items ?? {});
  let measures = $derived(job().now?.sketch ?? job().settled?.sketch ?? []);
  let selected = $state('');
  let chosen = $derived(items[selected] as SketchItem | undefined);
  const KINDS = [
    ['set', 'Set', 15, 9],
    ['opening', 'Opening', 15, 1.5],
    ['cylinder', 'Cylinder', 11, 9],
    ['stub', 'Gas stub', 24, 2],
    ['remote_tank', 'Remote tank', 18, 11]
  ] as const;
  const WINDS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];

  function add(kind: SketchItem['kind'], x: number, y: number) {
    const fresh = newKey(kind[0] ?? 'i', items);
    const near = Object.values(items).filter((item) => item.kind === kind).length;
    job().set(`${at}.sketch.items.${fresh}`, { kind, x: x + 2 * near, y, name: '' });
    selected = fresh;
  }
</script>

<SheetHead
  title="Where things stand"
  text="One square is a meter. Drag, or use the arrow keys; distances are measured as you draw."
/>

<div class="bar">
  {#each KINDS as [kind, name, x, y] (kind)}
    <button
      class="btn btn-sm"
      disabled={kind === 'set' && Object.values(items).some((item) => item.kind === 'set')}
      onclick={() => add(kind, x, y)}><Plus size={14} />{name}</button
    >
  {/each}
</div>

<SketchBoard
  {at}
  {items}
  {measures}
  exhaust={site?.sketch?.exhaust ?? null}
  wind={site?.sketch?.wind ?? null}
  bind:selected
/>

<div class="under">
  <div>
    <div class="turns">
      {#each [['exhaust', 'Exhaust blows to'], ['wind', 'Wind mostly from']] as const as [name, label] (name)}
        <label
          >{label}
          <select
            class="select"
            value={site?.sketch?.[name] ?? ''}
            onchange={(event) =>
              job().set(
                `${at}.sketch.${name}`,
                event.currentTarget.value === '' ? null : Number(event.currentTarget.value)
              )}
          >
            <option value="">not said</option>
            {#each WINDS as wind, i (wind)}<option value={i * 45}>{wind}</option>{/each}
          </select>
        </label>
      {/each}
    </div>
    {#if chosen}
      <div class="flex gap-2 items-center">
        {#key selected}
          <TextField path={`${at}.sketch.items.${selected}.name`} label="Name of the marked one" />
        {/key}
        <button
          class="btn btn-sm btn-ghost"
          onclick={() => job().remove(`${at}.sketch.items.${selected}`)}
          ><Trash size={15} />Take it off</button
        >
      </div>
    {/if}
  </div>
  <table class="answers">
    <tbody>
      {#each measures as measure (measure.key)}
        <tr>
          <th>{measure.figure.label}</th>
          <td><Figure figure={measure.figure} /></td>
          <td class:bad={measure.trouble}>{measure.trouble || 'clear'}</td>
        </tr>
      {:else}
        <tr><td class="quiet">Put the set on the sketch; everything is measured from it.</td></tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  .bar,
  .turns {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin-bottom: 0.6rem;
  }
  .turns {
    gap: 1rem;
  }
  .turns label {
    font-weight: 600;
  }
  .turns .select {
    width: 8rem;
    height: 2.4rem;
    display: flex;
    font-weight: 400;
  }
  .under {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 1.5rem;
    margin-top: 0.8rem;
  }

  td.bad {
    color: var(--color-error);
    font-weight: 650;
  }
  @media (max-width: 700px) {
    .under {
      grid-template-columns: 1fr;
    }
  }
</style>
