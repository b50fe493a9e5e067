<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import SignaturePad from '$lib/stages/hand_over/SignaturePad.svelte';
  import GoesBack from '$lib/stages/hand_over/GoesBack.svelte';
  import RecordRead from '$lib/stages/hand_over/RecordRead.svelte';
  import RecordDiffers from '$lib/stages/hand_over/RecordDiffers.svelte';

  const job = useJob();
  let snapshot = $derived(job().now);
  let found = $derived(snapshot?.closing ?? job().settled?.closing);
  let missing = $derived(found?.missing ?? []);
  let signer = $derived(job().settled?.job.stages.load_test?.by || prefs.who);
  let done = $derived(job().settled?.job.stages.hand_over?.state === 'done');
  const where = (path: string) =>
    path.startsWith('stages.')
      ? `/jobs/${job().id}/${path.slice(7)}/record`
      : `/jobs/${job().id}/${pageOf(path)}?field=${path}`;
  const pdf = (revision: number) => `/api/jobs/${job().id}/record.pdf?revision=${revision}`;
</script>

<SheetHead
  title="Closing"
  text="What is missing, in the order to do it; then both sign, and the record is sealed."
/>

{#if found}
  {#if missing.length}
    <section class="section" aria-labelledby="missing">
      <h2 id="missing">Missing <span class="quiet num">{missing.length}</span></h2>
      <ol data-missing>
        {#each missing as one (`${one.path} ${one.text}`)}
          <li>
            {#if one.path}<a class="link" href={where(one.path)}>{one.text}</a
              >{:else}{one.text}{/if}
          </li>
        {/each}
      </ol>
    </section>
  {:else if !found.sealed}
    <p class="ready" role="status" data-ready>Nothing is missing but the signatures.</p>
  {/if}

  <GoesBack deposit={found.deposit} />

  <section class="section">
    <h2>Record of work</h2>
    {#if found.seals.length}
      <ul>
        {#each found.seals as seal (seal.number)}
          <li data-seal={seal.number}>
            <a class="link" href={pdf(seal.number)} download>Revision {seal.number}, PDF</a>, signed
            by {seal.technician.name} and {seal.owner.name}
            <span class="quiet num">{seal.digest.slice(0, 12)}…</span>
          </li>
        {/each}
      </ul>
    {/if}
    {#if found.sealed}
      <p class="ready" role="status" data-sealed>
        Sealed as it stands. {done ? '' : 'Sign hand over off on its record.'}
        {#if !done}<a class="link" href={`/jobs/${job().id}/hand_over/record`}>Its record</a>{/if}
      </p>
    {:else}
      {#if found.differs.length}
        <h3>Changed since revision {found.seals.at(-1)?.number}</h3>
        <RecordDiffers differs={found.differs} />
      {/if}
      <p><a class="link" href={pdf(0)} download>Draft, PDF</a></p>
      <RecordRead record={found.record} />
    {/if}
  </section>

  {#if !missing.length || found.sealed}
    <section class="section">
      <h2>Signatures</h2>
      <div class="pads">
        <SignaturePad
          path="hand_over.technician"
          title="Technician"
          name={signer}
          signed={found.technician}
          work={found.work}
        />
        <SignaturePad
          path="hand_over.owner"
          title="Owner"
          name={job().settled?.job.owner ?? ''}
          signed={found.owner}
          work={found.work}
        />
      </div>
    </section>
  {/if}
{/if}

<style>
  ol {
    list-style: decimal;
    padding-left: 1.6rem;
  }
  ol li {
    padding: 0.2rem 0;
  }
  .ready {
    border-left: 4px solid var(--color-success);
    background: var(--color-base-100);
    padding: 0.5rem 0.8rem;
    font-weight: 600;
  }
  .pads {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr));
    gap: 1rem 2rem;
  }
</style>
