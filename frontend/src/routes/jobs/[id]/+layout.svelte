<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import { page } from '$app/state';
  import { current, viewsAt } from '$lib/frame/current.svelte';
  import Ledger from '$lib/frame/Ledger.svelte';
  import PocketLedger from '$lib/frame/PocketLedger.svelte';
  import Route from '$lib/frame/Route.svelte';
  import Conflicts from '$lib/session/Conflicts.svelte';
  import { JobSession, provideJob } from '$lib/session/session.svelte';

  let { children }: { children: Snippet } = $props();
  let id = $derived(page.params.id ?? '');
  let session = $derived(
    new JobSession(
      id,
      untrack(() => viewsAt(page.url.pathname))
    )
  );
  provideJob(() => session);

  $effect(() => {
    const opened = session;
    untrack(() => {
      current.session = opened;
      void opened.open();
    });
    return () => {
      opened.close();
      if (current.session === opened) current.session = undefined;
    };
  });

  /** What the page on show wants comes along with the job, in one answer. */
  $effect(() => void session.look(viewsAt(page.url.pathname)));

  let stage = $derived(page.url.pathname.split('/')[3] ?? 'intake');
  let snapshot = $derived(session.now);
  /** Bench mode has the screen to itself. */
  let bench = $derived(page.url.pathname.endsWith('/bench'));

  function visible() {
    if (document.visibilityState === 'visible') {
      void session.refresh();
      session.stream.open();
    } else {
      session.stream.close();
      session.remember();
    }
  }

  let ready = $derived(Boolean(snapshot));

  // The finder leads to a field by name: give it the focus once it is there.
  $effect(() => {
    const wanted = page.url.searchParams.get('field');
    if (!wanted || !ready) return;
    const place = `[data-field="${CSS.escape(wanted)}"] :is(input, select, textarea, [role=radio])`;
    let tries = 0;
    const timer = setInterval(() => {
      const found = document.querySelector<HTMLElement>(place);
      // Whoever types elsewhere by now keeps the keyboard, however slowly the page came.
      const typing = document.activeElement?.closest('main :is(input, select, textarea)');
      if (!typing) found?.focus();
      if (found || typing || ++tries > 40) clearInterval(timer);
    }, 50);
    return () => clearInterval(timer);
  });
</script>

<svelte:document onvisibilitychange={visible} />
<svelte:window ononline={() => void session.flush()} onpagehide={() => session.remember()} />
<svelte:head><title>{snapshot?.job.title ?? 'Job'} · Gentle Ember</title></svelte:head>

{#if session.missing}
  <main class="max-w-160 my-0 mx-auto">
    <h1>This job can't be opened</h1>
    <p>{session.missing}</p>
    <p><a class="btn" href="/">To the shop board</a></p>
  </main>
{:else if snapshot && bench}
  <Conflicts {session} />
  {@render children()}
{:else if snapshot}
  <Conflicts {session} />
  <div class="job">
    <div class="left no-print"><Route stages={snapshot.route} job={id} current={stage} /></div>
    <main id="sheet" tabindex="-1">{@render children()}</main>
    <aside class="right"><Ledger {snapshot} /></aside>
    <div class="pocket no-print"><PocketLedger {snapshot} /></div>
  </div>
{:else}
  <main class="max-w-160 my-0 mx-auto quiet" aria-busy="true">
    {session.saving === 'unreached' ? 'The server does not answer; trying again.' : 'Opening…'}
  </main>
{/if}

<style>
  .job {
    flex: 1;
    min-height: 0;
    display: grid;
    grid-template-columns: 11.5rem minmax(0, 1fr) 18.5rem;
  }
  .left {
    border-right: 1px solid var(--rule);
    overflow-y: auto;
  }
  main {
    /* What is there for readers only is placed in it, and never makes the page itself longer. */
    position: relative;
    overflow-y: auto;
    padding: 1.3rem 1.6rem 2rem;
    outline: none;
  }
  .right {
    border-left: 1px solid var(--rule);
    background: var(--color-base-100);
    overflow-y: auto;
  }

  .pocket {
    display: none;
  }
  @media (max-width: 899px) {
    .job {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: minmax(0, 1fr) auto auto;
    }
    .left {
      order: 3;
      border: 0;
    }
    .right {
      display: none;
    }
    .pocket {
      display: block;
      order: 2;
    }
    main {
      order: 1;
      padding: 1rem 1rem 1.5rem;
    }
  }
</style>
