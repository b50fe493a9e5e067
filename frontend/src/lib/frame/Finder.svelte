<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, ask, type Found } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { actions, type Entry } from './actions';
  import { current } from './current.svelte';

  let text = $state('');
  let found = $state.raw<Found[]>([]);
  let chosen = $state(0);
  let timer: ReturnType<typeof setTimeout> | undefined;

  $effect(() => {
    if (current.finder) {
      text = '';
      found = [];
      chosen = 0;
    }
  });

  let entries = $derived<Entry[]>([...found.map(fromServer), ...actions(text)].slice(0, 14));

  function fromServer(one: Found): Entry {
    const where = one.kind === 'job' ? 'job' : one.kind === 'quantity' ? 'in other units' : 'term';
    return { title: one.title, detail: one.detail, where, run: () => lead(one) };
  }

  function lead(one: Found): void {
    const job = current.session?.id;
    if (one.kind === 'job') void goto(`/jobs/${one.job}`);
    else if (one.kind === 'quantity')
      void goto(`/quick/convert?q=${encodeURIComponent(one.field)}`);
    else if (one.page && job) {
      const site = current.session?.settled?.job.site ?? 's1';
      const field = one.field === 'elevation' ? `sites.${site}.elevation` : one.field;
      void goto(`/jobs/${job}/${one.page}${field ? `?field=${field}` : ''}`);
    } else if (one.page.endsWith('cylinder')) void goto('/quick/cylinder');
    else if (one.page.endsWith('output')) void goto('/quick/derate');
  }

  function input(): void {
    chosen = 0;
    clearTimeout(timer);
    timer = setTimeout(async () => {
      const query = { q: text, system: prefs.system };
      try {
        found = text.trim() ? await ask(api.GET('/api/finder', { params: { query } })) : [];
      } catch {
        found = [];
      }
    }, 80);
  }

  function run(entry: Entry | undefined): void {
    if (!entry) return;
    current.finder = false;
    entry.run();
  }

  function keydown(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown') chosen = Math.min(chosen + 1, entries.length - 1);
    else if (event.key === 'ArrowUp') chosen = Math.max(chosen - 1, 0);
    else if (event.key === 'Enter') run(entries[chosen]);
    else return;
    event.preventDefault();
  }
</script>

<Dialog
  open={current.finder}
  label="Find or run anything"
  width="wide"
  top
  onclose={() => (current.finder = false)}
>
  <input
    class="input"
    placeholder="A job, a field, a trade name, 7 in w.c. …"
    role="combobox"
    aria-label="Find"
    aria-expanded="true"
    aria-controls="finder-list"
    aria-activedescendant={entries.length ? `finder-${chosen}` : undefined}
    autocomplete="off"
    spellcheck="false"
    bind:value={text}
    oninput={input}
    onkeydown={keydown}
  />
  <ul id="finder-list" role="listbox" aria-label="Found">
    {#each entries as entry, i (`${entry.where}${entry.title}${i}`)}
      <!-- The field above keeps the focus; arrow keys and Enter choose from there. -->
      <!-- svelte-ignore a11y_click_events_have_key_events -->
      <li
        id={`finder-${i}`}
        role="option"
        aria-selected={i === chosen}
        class:chosen={i === chosen}
        onmousemove={() => (chosen = i)}
        onclick={() => run(entry)}
      >
        <span class="font-semibold">{entry.title}</span>
        <span class="quiet text-[.8rem]">{entry.where}</span>
        {#if entry.detail}<span class="quiet col-span-full text-[.85rem]">{entry.detail}</span>{/if}
      </li>
    {:else}
      <li role="option" aria-selected="false" class="quiet none">
        Nothing by that name. Try another of its names.
      </li>
    {/each}
  </ul>
</Dialog>

<style>
  .input {
    height: 2.8rem;
    font-size: 1.05rem;
  }
  ul {
    margin-top: 0.5rem;
    max-height: 60vh;
    overflow-y: auto;
  }
  li {
    display: grid;
    grid-template-columns: 1fr auto;
    padding: 0.4rem 0.6rem;
    border-radius: 0.375rem;
    cursor: pointer;
  }
  .chosen {
    background: var(--tint);
    box-shadow: inset 3px 0 0 var(--color-primary);
  }

  .none {
    display: block;
    cursor: default;
  }
</style>
