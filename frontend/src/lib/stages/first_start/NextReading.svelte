<script lang="ts">
  import { freshKey, signed, stamp } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import SettingCosts from './SettingCosts.svelte';
  import type { BenchLive, GasMetering } from './bench.svelte';
  import CannotSet from '$lib/stages/first_start/CannotSet.svelte';

  interface Props {
    gas: GasMetering;
    bench: BenchLive;
    /** The bench runs and can be read. */
    live: boolean;
    /** A reading is to be typed, by its key. */
    open: (key: string) => void;
  }
  let { gas, bench, live, open }: Props = $props();
  const job = useJob();
  let at = $derived(`metering.${gas.key}`);
  /** Whether the bench's exhaust has a probe in it: two turns of the screw suffice then. */
  let probe = $state(false);

  async function readNow() {
    const ahead = gas.next?.turns ?? bench.now?.hands.turns ?? 0;
    const load = Math.min(0.6 * (bench.now?.limit_w ?? 0), gas.load?.value ?? Infinity);
    const taken = await bench.take(ahead, gas.signal, load);
    if (!taken) return;
    const fact = (value: number) => ({ value, origin: 'simulated', typed: '' });
    job().setAll([
      {
        path: `${at}.readings.${freshKey('s')}`,
        value: {
          turns: fact(taken.turns),
          ...(taken.value ? { [gas.signal]: fact(taken.value) } : {}),
          ...(probe && taken.lam ? { lam: fact(taken.lam) } : {}),
          sigma: taken.sigma,
          ran: taken.ran,
          ...signed()
        }
      }
    ]);
  }

  function typeOne() {
    const key = freshKey('r');
    open(key);
    const path = `${at}.readings.${key}`;
    job().setAll([
      { path, value: { ...signed() } },
      ...(gas.next
        ? [{ path: `${path}.turns`, typed: gas.next.shown, origin: 'measured' as const }]
        : [])
    ]);
  }

  function lock() {
    if (!gas.setting) return;
    job().setAll([
      {
        path: `${at}.locked`,
        typed: gas.setting_mark,
        origin: gas.simulated ? 'simulated' : 'measured'
      },
      { path: `${at}.locked_by`, value: prefs.who },
      { path: `${at}.locked_on`, value: stamp() }
    ]);
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key !== ' ' || !gas.next || !live) return;
    if (document.activeElement?.closest('input, textarea, select, button, a, dialog[open]')) return;
    event.preventDefault();
    void readNow();
  }
</script>

<svelte:window {onkeydown} />

<div class="grid gap-[.4rem]" aria-live="polite" data-next={gas.next?.turns ?? ''}>
  {#if gas.next}
    <p class="next text-[1.25rem] font-bold">Next: {gas.next.shown} turns.</p>
    <p>{gas.next.how} <span class="quiet">{gas.next.why}</span></p>
    <div class="acts">
      {#if bench.now}
        <button class="btn btn-primary" onclick={() => readNow()} disabled={!live}>Read now</button>
        <span class="quiet">Space</span>
        <label class="quiet flex items-center gap-[.4rem]">
          <input type="checkbox" class="checkbox checkbox-sm" bind:checked={probe} />
          probe in the exhaust
        </label>
        <button class="btn btn-ghost" disabled={gas.forbidden.length > 0} onclick={() => typeOne()}
          >Type it instead</button
        >
      {:else}
        <button
          class="btn btn-primary"
          disabled={gas.forbidden.length > 0}
          onclick={() => typeOne()}>Type a reading</button
        >
      {/if}
    </div>
    {#if bench.now && !bench.now.running}
      <p class="quiet">It does not run: gas on, primed, started; then read.</p>
    {/if}
  {:else if gas.cannot}
    <CannotSet cannot={gas.cannot} />
    <div class="acts">
      <button class="btn" onclick={() => job().set(`${at}.readings`, {})}
        >Put right: sweep again</button
      >
      <button class="btn btn-ghost" disabled={gas.forbidden.length > 0} onclick={() => typeOne()}
        >Type a reading</button
      >
    </div>
  {:else if gas.setting}
    <p class="next text-[1.25rem] font-bold good" data-setting>
      <span>Set it at <span class="num">{gas.setting_mark}</span> turns</span>
      <span class="quiet"><Figure figure={gas.setting} /></span>
      <span class="num quiet"
        >{gas.setting[prefs.system].low} to {gas.setting[prefs.system].high}</span
      >
    </p>
    <p class="quiet">Another reading would not change it.</p>
    {#if gas.costs.length > 1}<SettingCosts costs={gas.costs} />{/if}
    <div class="acts">
      <button class="btn btn-primary" onclick={() => lock()}
        >{gas.locked ? 'Lock again' : 'Lock it there'}</button
      >
      <button class="btn btn-ghost" disabled={gas.forbidden.length > 0} onclick={() => typeOne()}
        >Type a reading</button
      >
    </div>
  {/if}
</div>

<style>
  .good {
    display: flex;
    flex-wrap: wrap;
    gap: 0 0.7rem;
    align-items: baseline;
  }
  .good .quiet {
    font-size: 0.9rem;
    font-weight: 400;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.8rem;
    align-items: center;
  }
</style>
