<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import { api, ask, Refusal, type Like } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let likes = $state.raw<Like[]>([]);
  let open = $state('');
  let kind = $derived.by(() => {
    const set = job().settled?.job.set;
    return set ? [set.maker, set.model, set.engine_family, job().settled?.revision].join('|') : '';
  });

  $effect(() => {
    if (!kind) return;
    const id = job().id;
    void ask(api.GET('/api/jobs/{job_id}/library', { params: { path: { job_id: id } } })).then(
      (found) => (likes = found.filter((one) => one.offers.length || one.learned.length)),
      (error: unknown) => {
        if (!(error instanceof Refusal)) throw error;
      }
    );
  });

  function take(like: Like) {
    job().setAll(
      like.offers.map(({ path, value, origin, typed }) => ({
        path,
        value: { value, origin, typed }
      }))
    );
  }
</script>

{#each likes as like (like.job)}
  <div class="like" data-like={like.title}>
    <div class="head">
      <p>
        <strong>{like.set_label}</strong> was here before:
        <a href={`/jobs/${like.job}`}>{like.title}</a>
        <span class="quiet">({like.why})</span>
      </p>
      {#if like.offers.length}
        <button
          class="btn btn-sm"
          aria-expanded={open === like.job}
          onclick={() => (open = open === like.job ? '' : like.job)}
          >{like.offers.length} {like.offers.length === 1 ? 'fact' : 'facts'} to take over</button
        >
      {/if}
    </div>
    {#if like.learned.length}
      <ul class="learned">
        {#each like.learned as line (line)}<li>{line}</li>{/each}
      </ul>
    {/if}
    {#if open === like.job}
      <ul class="offers">
        {#each like.offers as offer (offer.path)}
          <li><span>{offer.label}</span><span class="num">{offer[prefs.system]}</span></li>
        {/each}
      </ul>
      <button class="btn btn-sm btn-primary" onclick={() => take(like)}>
        <Check size={15} />Take them over
      </button>
    {/if}
  </div>
{/each}

<style>
  .like {
    border: 1px solid var(--rule);
    background: var(--color-base-100);
    border-radius: 0.375rem;
    padding: 0.5rem 0.8rem;
    margin-bottom: 0.8rem;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    justify-content: space-between;
    align-items: center;
  }
  a {
    text-decoration: underline;
  }
  .learned {
    list-style: disc;
    padding-left: 1.1rem;
    font-size: 0.88rem;
    color: var(--muted);
  }
  .offers {
    columns: 2;
    gap: 2rem;
    margin: 0.4rem 0 0.6rem;
    font-size: 0.9rem;
  }
  .offers li {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    break-inside: avoid;
    border-top: 1px dotted var(--rule);
  }
  @media (max-width: 600px) {
    .offers {
      columns: 1;
    }
  }
</style>
