<script lang="ts">
  import { api, ask, Refusal } from '$lib/api/client';
  import { BURNS } from '$lib/api/published';
  import type { components } from '$lib/api/schema';
  import { writeKey } from '$lib/session/outbox';
  import { prefs } from '$lib/session/prefs.svelte';
  import { freshKey } from '$lib/session/record';
  import { today } from '$lib/stages/logbook/days';

  type Mine = components['schemas']['MineOut'];
  interface Props {
    job: string;
    kept: (now: Mine) => void;
  }
  let { job, kept }: Props = $props();
  const empty = () => ({ on: today(), hours: '', meter: '', load: '', used: '', remark: '' });
  let typed = $state(empty());
  let fuel = $state('');
  let key = $state(writeKey());
  let errors = $state<Record<string, string>>({});
  let said = $state('');
  const bare = (text: string) => (/^[\d.]+$/.test(text.trim()) ? `${text} h` : text);
  const FIELDS = [
    ['hours', 'Ran', '2.5 h'],
    ['meter', 'or hour meter', '123.4'],
    ['load', 'About what load', '1,500 W'],
    ['used', 'Fuel used, weighed', '8 lb'],
    ['remark', 'Remark', '']
  ] as const;

  async function log(event: SubmitEvent) {
    event.preventDefault();
    errors = {};
    said = '';
    const body = {
      ...typed,
      hours: bare(typed.hours),
      meter: bare(typed.meter),
      fuel: fuel as 'propane',
      key,
      run: freshKey('r'),
      new_meter: false,
      system: prefs.system
    };
    try {
      // The same key until it is taken: sent twice for want of an answer it is logged once.
      kept(
        await ask(api.POST('/api/mine/{job_id}/runs', { params: { path: { job_id: job } }, body }))
      );
      typed = empty();
      key = writeKey();
      said = 'Logged.';
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (error.status) key = writeKey();
      errors = Object.fromEntries(
        error.errors.map((one) => [one.path.split('.').at(-1) ?? '', one.message])
      );
      if (!Object.keys(errors).some((name) => FIELDS.some(([field]) => field === name)))
        errors = { ...errors, hours: error.message };
    }
  }
</script>

<form onsubmit={log}>
  <div>
    <label for="own-on">Day</label>
    <input id="own-on" class="input w-full" type="date" bind:value={typed.on} />
  </div>
  <div>
    <label for="own-fuel">On</label>
    <select id="own-fuel" class="select w-full" bind:value={fuel}>
      {#each BURNS as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </div>
  {#each FIELDS as [name, label, sample] (name)}
    <div>
      <label for={`own-${name}`}>{label}</label>
      <input
        id={`own-${name}`}
        class="input w-full"
        placeholder={sample}
        inputmode={name === 'hours' || name === 'meter' ? 'decimal' : undefined}
        bind:value={typed[name]}
        aria-invalid={errors[name] !== undefined}
        aria-describedby={`own-${name}-w`}
      />
      <p id={`own-${name}-w`} class="text-error font-semibold">{errors[name] ?? ''}</p>
    </div>
  {/each}
  <button class="btn btn-primary" disabled={!typed.hours.trim() && !typed.meter.trim()}
    >Log this run</button
  >
  <p role="status">{said}</p>
</form>

<style>
  form {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(9.5rem, 1fr));
    gap: 0.5rem 0.9rem;
    align-items: end;
  }
</style>
