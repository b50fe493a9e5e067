<script lang="ts">
  import { RESULTS, type Tried } from './attempts';

  interface Props {
    gas: boolean;
    waits: boolean;
    keep: (tried: Tried) => void;
  }
  let { gas, waits, keep }: Props = $props();
  const id = $props.id();
  const PRIMER = [
    ['presses', 'Primer presses', 50],
    ['seconds', 'Seconds each', 60]
  ] as const;
  let tried = $state<Tried>({
    choke: 'open',
    presses: 1,
    seconds: 2,
    hiss: '',
    result: 'nothing'
  });
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    keep({ ...tried });
  }}
>
  <div class="field">
    <label for={`${id}-c`}>Choke</label>
    <select id={`${id}-c`} class="select" bind:value={tried.choke}>
      <option value="open">open</option><option value="half">half</option>
      <option value="shut">shut</option>
    </select>
  </div>
  {#if gas}
    {#each PRIMER as [key, label, most] (key)}
      <div class="field">
        <label for={`${id}-${key}`}>{label}</label>
        <input
          id={`${id}-${key}`}
          class="input num"
          type="number"
          min="0"
          max={most}
          bind:value={tried[key]}
        />
      </div>
    {/each}
    <div class="field">
      <label for={`${id}-h`}>Hiss</label>
      <select id={`${id}-h`} class="select" bind:value={tried.hiss}>
        <option value="">not listened</option><option value="heard">heard</option>
        <option value="not_heard">not heard</option>
      </select>
    </div>
  {/if}
  <div class="field">
    <label for={`${id}-r`}>What it did</label>
    <select id={`${id}-r`} class="select" bind:value={tried.result}>
      {#each Object.entries(RESULTS) as [key, text] (key)}<option value={key}>{text}</option>{/each}
    </select>
  </div>
  <!-- That gas is smelled is taken down at any time; a try is not made before the wait is over. -->
  <button class="btn btn-primary" disabled={waits && tried.result !== 'smells'}
    >Note the attempt</button
  >
</form>

<style>
  form {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(8rem, 1fr));
    gap: 0.3rem 0.8rem;
    align-items: end;
    max-width: 52rem;
    margin-top: 0.4rem;
  }
</style>
