<script lang="ts">
  import type { Fact } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { assumption, fieldOf, useReference } from '$lib/session/reference';
  import { at } from '$lib/session/path';

  interface Props {
    path: string;
    /** Only where one of several alike is told from the others; else the field's own. */
    label?: string;
    hint?: string;
    /** What stands in when nothing is given, said in the field: in words, or a value [SI]. */
    assumed?: string | number;
  }
  let { path, label = '', hint = '', assumed = '' }: Props = $props();

  const ORIGINS = [
    ['owner', 'from the owner'],
    ['data_sheet', 'data sheet'],
    ['measured', 'measured'],
    ['assumed', 'assumed']
  ] as const;
  const id = $props.id();
  const job = useJob();
  const reference = useReference();
  let focused = $state(false);

  let fact = $derived(at(job().settled?.job, path) as Fact | null | undefined);
  let shown = $derived(job().settled?.shown[path]?.[prefs.system] ?? '');
  let draft = $derived(job().drafts[path]?.text);
  let error = $derived(job().errors[path]);
  let field = $derived(fieldOf(reference.data, path));
  let kind = $derived(field?.kind);
  let called = $derived(label || field?.label || '');
  let sample = $derived(
    field?.[`sample_${prefs.system}`] ||
      (kind ? reference.data?.kinds[kind]?.[`sample_${prefs.system}`] : undefined)
  );
  let stands = $derived(assumption(reference.data, kind, prefs.system, assumed));
  let understood = $derived.by(() => {
    const seen = job().now;
    const now = seen?.shown[path];
    // Of what is typed, only what was asked about it: the value that is saved reads like an answer.
    if (!now || error || (draft !== undefined && !seen?.preview)) return '';
    const other = prefs.system === 'us' ? now.metric : now.us;
    const own = now[prefs.system];
    if (draft !== undefined) return own === other ? `= ${own}` : `= ${own} · ${other}`;
    return own === other ? '' : other;
  });

  function input(event: Event & { currentTarget: HTMLInputElement }) {
    const text = event.currentTarget.value;
    if (text === shown) job().forget(path);
    else job().type(path, text);
  }

  function settle() {
    focused = false;
    if (draft !== undefined) job().save(path);
  }

  function keydown(event: KeyboardEvent) {
    if (event.key === 'Enter') job().save(path);
    if (event.key === 'Escape' && draft !== undefined) {
      event.stopPropagation();
      job().forget(path);
    }
  }

  function retell(event: Event & { currentTarget: HTMLSelectElement }) {
    const origin = event.currentTarget.value as Fact['origin'];
    if (draft !== undefined) job().save(path, origin);
    else job().set(`${path}.origin`, origin);
  }
</script>

<div class="field" data-field={path}>
  <label for={id}>{called}</label>
  <div class="row">
    <input
      {id}
      class="input num"
      class:input-error={error}
      class:told={fact || draft}
      value={draft ?? shown}
      placeholder={stands || (sample ? `like ${sample}` : '')}
      autocomplete="off"
      autocapitalize="off"
      spellcheck="false"
      aria-invalid={Boolean(error)}
      aria-describedby={`${id}-says`}
      oninput={input}
      onfocus={(event) => {
        focused = true;
        event.currentTarget.select();
      }}
      onblur={settle}
      onkeydown={keydown}
    />
    {#if fact || draft}
      <select
        class="origin"
        value={fact?.origin ?? 'owner'}
        onchange={retell}
        aria-label={`${called}: where it comes from`}
      >
        {#each ORIGINS as [value, text] (value)}<option {value}>{text}</option>{/each}
      </select>
    {/if}
  </div>
  <p id={`${id}-says`} class="says" class:wrong={error} aria-live="polite">
    {error || understood || (focused && draft === '' ? 'Empty: not known.' : hint) || '\u00a0'}
  </p>
</div>

<style>
  .row {
    position: relative;
    container-type: inline-size;
  }
  .input {
    font-size: 0.95rem;
  }
  .told {
    padding-right: 6.4rem;
  }
  .origin {
    position: absolute;
    right: 0.3rem;
    top: 50%;
    translate: 0 -50%;
    z-index: 1;
    width: 5.9rem;
    height: 1.8rem;
    font-size: 0.8rem;
    text-align: right;
    color: var(--muted);
    background: var(--color-base-100);
  }
  /* A narrow field shows its value whole: 1,700 W must not read as 700. */
  @container (max-width: 12rem) {
    .told {
      padding-left: 0.5rem;
      padding-right: 4.9rem;
    }
    .origin {
      width: 4.7rem;
      font-size: 0.7rem;
    }
  }
</style>
