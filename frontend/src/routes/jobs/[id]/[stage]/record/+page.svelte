<script lang="ts">
  import { page } from '$app/state';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { WAITS } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let key = $derived(page.params.stage ?? '');
  let snapshot = $derived(job().now);
  let shown = $derived(snapshot?.route.find((entry) => entry.key === key));
  let stage = $derived(job().settled?.job.stages[key]);
  let sign = $derived(snapshot?.signing[key]?.sign ?? []);
  let leave = $derived(snapshot?.signing[key]?.leave_out ?? []);
  let why = $state('');
  let refused = $derived(job().errors[`stages.${key}`]);
  let questions = $derived((snapshot?.questions ?? []).filter((one) => one.stage === key));

  function become(state: string) {
    const done = state === 'done' || state === 'left_out';
    const on = new Date();
    const local = new Date(on.getTime() - on.getTimezoneOffset() * 60_000);
    job().set(`stages.${key}`, {
      state,
      waits_for: state === 'waiting' ? 'parts' : 'nothing',
      by: done ? prefs.who : '',
      on: done ? local.toISOString().slice(0, 10) : '',
      note: state === 'left_out' ? why.trim() : (stage?.note ?? '')
    });
  }
</script>

<SheetHead
  title={`${shown?.name ?? ''}: record`}
  text="Where this stage stands, who closed it, what it waits for."
/>

<p class="state text-[1.1rem] font-semibold" data-stage-state={stage?.state ?? 'not_started'}>
  {#if stage?.state === 'done'}
    Done{stage.by ? ` by ${stage.by}` : ''}{stage.on ? ` on ${stage.on}` : ''}.
  {:else if stage?.state === 'left_out'}
    Left out on purpose by {stage.by}{stage.on ? ` on ${stage.on}` : ''}: {stage.note}
  {:else if stage?.state === 'waiting'}
    Waiting.
  {:else if stage?.state === 'under_way'}
    Under way.
  {:else}
    Not started.
  {/if}
</p>

{#if sign.length && stage?.state !== 'done'}
  <div class="held" role="status" data-holds>
    <strong>Can't be signed yet:</strong>
    <ul>
      {#each sign as one (`${one.path} ${one.text}`)}
        <li>
          {one.text}
          {#if one.path.startsWith('stages.')}
            <a href={`/jobs/${job().id}/${one.path.slice(7)}/record`}>its record</a>
          {:else if one.path}
            <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>settle it</a>
          {/if}
        </li>
      {/each}
    </ul>
  </div>
{/if}
{#if questions.length}
  <p class="quiet">Open: {questions.map((one) => one.text).join(' · ')}.</p>
{/if}

<div class="acts">
  <button class="btn" onclick={() => become('under_way')}>Under way</button>
  <button class="btn" onclick={() => become('waiting')}>Waiting for…</button>
  <button
    class="btn btn-primary"
    disabled={sign.length > 0 || !prefs.who}
    onclick={() => become('done')}>Sign off as done</button
  >
  {#if stage && stage.state !== 'not_started'}
    <button class="btn btn-ghost" onclick={() => become('not_started')}>Back to not started</button>
  {/if}
</div>
{#if !leave.length && stage?.state !== 'done' && stage?.state !== 'left_out'}
  <form
    class="leave"
    onsubmit={(event) => {
      event.preventDefault();
      become('left_out');
    }}
  >
    <label for={`${key}-why`}>Leave this stage out on purpose, because</label>
    <input id={`${key}-why`} class="input" bind:value={why} />
    <button class="btn" disabled={!why.trim() || !prefs.who}>Leave it out</button>
  </form>
{/if}
{#if refused}<p class="says wrong" role="alert">{refused}</p>{/if}
{#if !prefs.who}<p class="quiet">Say who you are (top right) to sign off.</p>{/if}

<div class="section">
  {#if stage?.state === 'waiting'}
    <div class="grid-2">
      <ChoiceField path={`stages.${key}.waits_for`} label="Waits for" options={WAITS} />
    </div>
  {/if}
  {#if stage}
    <TextField path={`stages.${key}.note`} label="Note" rows={4} />
  {/if}
</div>

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    margin: 1rem 0 0.4rem;
  }
  .held {
    border-left: 3px solid var(--color-primary);
    background: var(--tint);
    padding: 0.55rem 0.75rem;
    margin-top: 0.6rem;
  }
  .held a {
    text-decoration: underline;
  }
  .leave {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
    margin: 0.4rem 0;
  }
  .leave input {
    flex: 1;
    min-width: 14rem;
  }
</style>
