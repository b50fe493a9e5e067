<script lang="ts">
  import { BURNS } from '$lib/api/published';
  import { freshKey } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { today } from './days';

  const job = useJob();
  const id = $props.id();
  let runs = $derived(Object.values(job().settled?.job.logbook?.runs ?? {}));
  let last = $derived([...runs].sort((a, b) => (a.on ?? '').localeCompare(b.on ?? '')).at(-1));
  let on = $state(today());
  let hours = $state('');
  let meter = $state('');
  let fuel = $state<string>();
  let load = $state('');
  let used = $state('');
  let remark = $state('');
  let fresh = $state(false);
  let key = $state(freshKey('r'));
  let sent = $state(false);
  let at = $derived(`logbook.runs.${key}`);
  let burnt = $derived(fuel ?? last?.fuel ?? '');
  let faults = $derived(
    Object.entries(job().errors).filter(([path]) => path === at || path.startsWith(`${at}.`))
  );
  let kept = $derived(job().settled?.job.logbook?.runs?.[key] !== undefined);

  // What was typed stands until the run is kept: refused, it is still there to be put right.
  $effect(() => {
    if (!sent || !kept) return;
    hours = meter = load = used = remark = '';
    fresh = false;
    key = freshKey('r');
    sent = false;
  });

  /** As typed; a bare number is hours, as an hour meter shows it. */
  const inHours = (text: string) => (/^[\d.]+$/.test(text.trim()) ? `${text} h` : text);

  function log(event: SubmitEvent) {
    event.preventDefault();
    const typed = [
      ['hours', inHours(hours)],
      ['meter', inHours(meter)],
      ['load', load],
      ['used', used]
    ].filter(([, text]) => text?.trim());
    sent = true;
    job().setAll([
      { path: at, value: { on, fuel: burnt, remark, by: prefs.who, new_meter: fresh } },
      ...typed.map(([name, text]) => ({
        path: `${at}.${name}`,
        typed: text,
        origin: 'owner' as const
      }))
    ]);
  }
  const wrong = (name: string) => faults.find(([path]) => path === `${at}.${name}`)?.[1];
</script>

<form class="log" onsubmit={log} data-log-run>
  <div>
    <label for={`${id}-d`}>Day</label><input
      id={`${id}-d`}
      class="input"
      type="date"
      bind:value={on}
    />
  </div>
  <div>
    <label for={`${id}-h`}>Ran</label><input
      id={`${id}-h`}
      class="input"
      inputmode="decimal"
      placeholder="2.5 h"
      bind:value={hours}
      aria-invalid={wrong('hours') !== undefined}
    />
  </div>
  <div>
    <label for={`${id}-m`}>or hour meter</label><input
      id={`${id}-m`}
      class="input"
      inputmode="decimal"
      placeholder="123.4"
      bind:value={meter}
      aria-invalid={wrong('meter') !== undefined}
    />
  </div>
  <div>
    <label for={`${id}-f`}>On</label><select
      id={`${id}-f`}
      class="select"
      value={burnt}
      onchange={(event) => (fuel = event.currentTarget.value)}
    >
      {#each BURNS as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </div>
  <div>
    <label for={`${id}-l`}>About what load</label><input
      id={`${id}-l`}
      class="input"
      placeholder="1,500 W"
      bind:value={load}
    />
  </div>
  <div>
    <label for={`${id}-u`}>Fuel used, weighed</label><input
      id={`${id}-u`}
      class="input"
      placeholder={prefs.system === 'us' ? '8 lb' : '3.6 kg'}
      bind:value={used}
    />
  </div>
  <div class="wide">
    <label for={`${id}-r`}>Remark</label><input id={`${id}-r`} class="input" bind:value={remark} />
  </div>
  <label class="flex gap-2 items-center"
    ><input class="checkbox" type="checkbox" bind:checked={fresh} />the hour meter is a new one</label
  >
  <button class="btn btn-primary" disabled={!hours.trim() && !meter.trim()}>Log this run</button>
  {#if faults.length}
    <ul class="wrong" role="alert">
      {#each faults as [path, text] (path)}<li>{text}</li>{/each}
    </ul>
  {/if}
</form>

<style>
  .log {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(9.5rem, 1fr));
    gap: 0.6rem 0.9rem;
    align-items: end;
  }
  label {
    font-size: 0.85rem;
  }

  .wide {
    grid-column: span 2;
  }
  .wrong {
    grid-column: 1 / -1;
    color: var(--color-error);
    font-weight: 600;
  }
</style>
