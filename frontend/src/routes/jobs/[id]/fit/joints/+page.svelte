<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let fit = $derived(job().now?.fit ?? job().settled?.fit);
  let fuels = $derived([...new Set((fit?.joints ?? []).map((one) => one.fuel))]);
  let passed = $derived((fit?.joints ?? []).filter((one) => one.passed).length);
</script>

<SheetHead
  title="Joints"
  text={fit?.joints.length
    ? `${passed} of ${fit.joints.length} passed. A joint opened again loses its pass.`
    : ''}
/>

{#if fit?.joints.length}
  <p>
    <a class="link" href={`/jobs/${job().id}/prove_tight/leaks`}>Soap them under Prove tight</a>
  </p>
{/if}
{#each fuels as fuel (fuel)}
  <section>
    <h2>{fuel}</h2>
    <table>
      <thead><tr><th>Joint</th><th>Sealed</th><th>Made</th><th>Soaped, tight</th></tr></thead>
      <tbody>
        {#each (fit?.joints ?? []).filter((one) => one.fuel === fuel) as one (one.key)}
          <tr data-joint={one.key} class:void={Boolean(one.void)}>
            <td>{one.title}</td>
            <td><b class="letter num">{one.letter}</b> <span class="quiet">{one.seal}</span></td>
            <td
              >{one.fitter
                ? 'by the fitter'
                : one.on_day
                  ? 'on the day'
                  : one.made
                    ? 'made'
                    : 'open'}</td
            >
            <td>
              {#if one.void}<span class="text-error font-semibold">{one.void}</span>
              {:else if one.passed}<b class="tight text-success">tight</b>
                <span class="quiet">{one.by}</span>
              {:else}<span class="quiet">–</span>{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/each}
{#if fit && !fit.joints.length}<p class="quiet">No train yet, so no joints.</p>{/if}

<style>
  h2 {
    font-weight: 700;
    margin: 0.9rem 0 0.2rem;
  }
  h2::first-letter {
    text-transform: uppercase;
  }
  table {
    width: 100%;
  }
  th {
    text-align: left;
    font-weight: 600;
    color: var(--muted);
    font-size: 0.88rem;
  }
  td {
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0.8rem 0.3rem 0;
  }

  @media (max-width: 600px) {
    td:nth-child(2) .quiet,
    th:nth-child(3),
    td:nth-child(3) {
      display: none;
    }
  }
</style>
