<script lang="ts">
  import type { components } from '$lib/api/schema';
  import { useJob } from '$lib/session/session.svelte';
  import Strokes from './Strokes.svelte';
  import Pad from '$lib/stages/hand_over/Pad.svelte';

  interface Props {
    path: string;
    title: string;
    /** Whose it is, where somebody said so. */
    name: string;
    signed: components['schemas']['SignatureOut'];
    /** The work it is given for. */
    work: string;
  }
  let { path, title, name, signed, work }: Props = $props();
  const id = $props.id();
  const job = useJob();
  let typed = $state<string>();
  let who = $derived(typed ?? (signed.name || name));
  let strokes = $state<number[][]>([]);
  let error = $derived(job().errors[path] ?? '');

  function clear() {
    strokes = [];
  }

  // Signed, the pad is gone: whose name stands there takes the keyboard.
  let asked = false;
  let heading = $state<HTMLElement>();
  $effect(() => {
    if (signed.stands && asked) heading?.focus();
  });

  function sign() {
    asked = true;
    job().set(path, {
      name: who.trim(),
      on: new Date().toISOString(),
      strokes: $state.snapshot(strokes),
      of: work
    });
    clear();
  }
</script>

<section data-field={path} data-signed={signed.stands}>
  <h3 tabindex="-1" bind:this={heading}>{title}</h3>
  {#if signed.stands}
    <p><b>{signed.name}</b>, <span class="quiet">{signed.on.slice(0, 10)}</span></p>
    <div class="signed">
      <Strokes strokes={signed.strokes} text={`Signature of ${signed.name}`} />
    </div>
  {:else}
    {#if signed.name}
      <p class="text-error" role="status">
        {signed.name} signed an earlier state of this record: sign again.
      </p>
    {/if}
    <div class="field">
      <label for={id}>Name</label>
      <input {id} class="input" value={who} oninput={(e) => (typed = e.currentTarget.value)} />
    </div>
    <Pad {title} bind:strokes />
    <div class="acts">
      <button class="btn btn-sm" disabled={!strokes.length} onclick={clear}>Clear</button>
      <button
        class="btn btn-sm btn-primary"
        disabled={!strokes.length || !who.trim()}
        onclick={sign}>Sign as {who.trim() || '…'}</button
      >
    </div>
  {/if}
  {#if error}<p class="says wrong" role="alert">{error}</p>{/if}
</section>

<style>
  .signed {
    max-width: 22rem;
    border-bottom: 1px solid var(--rule);
  }
  .acts {
    display: flex;
    gap: 0.5rem;
    margin-top: 0.4rem;
  }
</style>
