<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import StackDrawing from '$lib/stages/fuel_path/StackDrawing.svelte';
  import { downloadSvg } from '$lib/stages/fuel_path/svg';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let stack = $derived(job().now?.stack ?? job().settled?.stack);
  let drawing = $state<SVGSVGElement>();
  const VERDICTS = {
    unknown: 'not known yet: measure studs and flange',
    pass: 'a full nut with a pitch showing',
    caution: 'the nut is only partly on: caution, never a pass',
    short: 'the studs are too short'
  } as const;
</script>

<SheetHead title="Stack" text="Air cleaner to engine, pulled apart in the order of the air flow." />

{#if stack}
  <div class="acts">
    <button class="btn btn-sm" onclick={() => drawing && downloadSvg(drawing, 'stack')}>SVG</button>
  </div>
  <StackDrawing {stack} bind:drawing />
  <p class="verdict" class:bad={stack.verdict === 'short'} data-verdict={stack.verdict}>
    <strong>{stack.count} studs:</strong>
    {VERDICTS[stack.verdict]}.
    {#each stack.figures as figure (figure.key)}
      <span class="ml-[.8rem]">{figure.label} <Figure {figure} /></span>
    {/each}
  </p>
  {#if stack.missing.length}
    <p class="quiet">
      To measure:
      {#each stack.missing as one (one.path)}
        <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>{one.text}</a>
      {/each}
    </p>
  {/if}
  <section class="section">
    <h2>Layer by layer</h2>
    <table>
      <tbody>
        {#each stack.layers as layer, i (layer.key)}
          <tr>
            <td class="num">{i + 1}</td>
            <th
              >{layer.name}{#if layer.new}<span class="text-primary text-[.82rem] ml-2">new</span
                >{/if}</th
            >
            <td class="num n"
              >{layer.thickness?.[prefs.system] ?? ''}
              {#if layer.thickness && layer.origin === 'assumed'}<span class="quiet">assumed</span
                >{/if}</td
            >
            <td class="quiet">{layer.mind}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if stack.beside.length}
      <h2>Beside it</h2>
      <ul>
        {#each stack.beside as one (one.label)}
          <li><b>{one.label}</b>: {one[prefs.system]}</li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}

<style>
  .acts {
    display: flex;
    justify-content: flex-end;
  }
  .verdict {
    border-left: 3px solid var(--color-primary);
    background: var(--tint);
    padding: 0.5rem 0.8rem;
    border-radius: 0 0.375rem 0.375rem 0;
    margin: 0.6rem 0;
  }
  .verdict[data-verdict='pass'] {
    border-color: var(--color-success);
  }
  .verdict.bad {
    border-color: var(--color-error);
    background: var(--stop-tint);
  }

  td,
  th {
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0.8rem 0.3rem 0;
    text-align: left;
    vertical-align: top;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }

  p a {
    text-decoration: underline;
    margin-right: 0.7rem;
  }
</style>
