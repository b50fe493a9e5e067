<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import PlugChart from '$lib/stages/load_test/PlugChart.svelte';

  const id = $props.id();
  let chosen = $state('');
  let fuel = $state<'gasoline' | 'gas'>('gasoline');
  let before = $state<'new' | 'clean' | 'as_was'>('new');
  let minutes = $state(25);
  const answer = createQuery(() => ({
    queryKey: ['plug', chosen, fuel, before, minutes],
    queryFn: () =>
      ask(
        api.POST('/api/plug-chart', {
          body: { key: chosen, fuel, before, seconds: Math.max(0, minutes || 0) * 60 }
        })
      ),
    enabled: chosen !== '',
    placeholderData: keepPreviousData,
    retry: false
  }));
</script>

<div class="grid-3">
  <label class="field"
    ><span>It ran on</span>
    <select class="select" bind:value={fuel}>
      <option value="gasoline">gasoline</option>
      <option value="gas">propane, natural gas or biogas</option>
    </select>
  </label>
  <label class="field"
    ><span>The plug went in</span>
    <select class="select" bind:value={before}>
      <option value="new">new</option>
      <option value="clean">burnt clean</option>
      <option value="as_was">as it was</option>
    </select>
  </label>
  <div class="field">
    <label for={`${id}-m`}>Minutes near rating</label>
    <input id={`${id}-m`} class="input" type="number" min="0" max="600" bind:value={minutes} />
  </div>
</div>
<div
  class="my-[.7rem] mx-0 min-h-[4.2rem]"
  role="status"
  data-leaning={chosen ? answer.data?.leaning : undefined}
>
  {#if chosen && answer.data}
    <p class="text-[1.15rem] font-[650]">{answer.data.name}. {answer.data.text}</p>
    {#if answer.data.why_not}<p class="text-error font-semibold">{answer.data.why_not}</p>{/if}
    <p class="quiet">
      New or burnt clean, 20 to 30 minutes near rating, shut off under load, then looked at.
      <a href="/methods/plug">How it is read</a>
    </p>
  {:else}<p class="quiet">Choose the picture it looks like.</p>{/if}
</div>
<PlugChart {chosen} choose={(key) => (chosen = key)} />

<style>
  a {
    text-decoration: underline;
  }
</style>
