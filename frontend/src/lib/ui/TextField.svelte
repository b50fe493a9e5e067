<script lang="ts">
  import { at } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    path: string;
    label: string;
    rows?: number;
    placeholder?: string;
    hint?: string;
    /** What an emptied field is saved as. */
    empty?: '' | null;
  }
  let { path, label, rows = 1, placeholder = '', hint = '', empty = '' }: Props = $props();
  const id = $props.id();
  const job = useJob();
  let saved = $derived(String(at(job().settled?.job, path) ?? ''));
  let error = $derived(job().errors[path]);
  let draft = $derived(job().drafts[path]?.text);

  function input(event: Event & { currentTarget: HTMLInputElement | HTMLTextAreaElement }) {
    const text = event.currentTarget.value;
    if (text === saved) job().forget(path);
    else job().type(path, text, true);
  }

  function save() {
    if (draft === '' && empty === null) {
      job().forget(path);
      job().set(path, null);
    } else if (draft !== undefined) job().save(path);
  }
</script>

<div class="field" data-field={path}>
  <label for={id}>{label}</label>
  {#if rows > 1}
    <textarea
      {id}
      class="textarea"
      {rows}
      {placeholder}
      value={draft ?? saved}
      oninput={input}
      onblur={save}></textarea>
  {:else}
    <input
      {id}
      class="input"
      {placeholder}
      value={draft ?? saved}
      oninput={input}
      onblur={save}
      onkeydown={(event) => event.key === 'Enter' && save()}
    />
  {/if}
  <p class="says" class:wrong={error} aria-live="polite">{error || hint || '\u00a0'}</p>
</div>
