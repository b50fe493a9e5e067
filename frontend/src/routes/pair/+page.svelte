<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';

  const client = useQueryClient();
  const found = createQuery(() => ({
    queryKey: ['pair'],
    queryFn: () => ask(api.GET('/api/pair')),
    retry: false,
    // A code lapses, and a phone comes in, while the page is looked at.
    refetchInterval: 5000
  }));
  const image = (svg: string) => `data:image/svg+xml,${encodeURIComponent(svg)}`;
  let trouble = $state('');
  let asked = $state('');
  let minutes = $derived(Math.max(1, Math.round((found.data?.lapses_s ?? 0) / 60)));
  const day = (text: string) =>
    new Date(text).toLocaleString('en-US', { dateStyle: 'medium', timeStyle: 'short' });

  async function act(work: Promise<typeof found.data>) {
    trouble = asked = '';
    try {
      client.setQueryData(['pair'], await work);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }
  const at = (key: string) => ({ params: { path: { key } } });
  const rename = (key: string, name: string) =>
    act(ask(api.PUT('/api/pair/devices/{key}', { ...at(key), body: { name } })));
  const shutOut = (key: string) => act(ask(api.DELETE('/api/pair/devices/{key}', at(key))));
</script>

<svelte:head><title>Pair a phone · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>Pair a phone</h1>
  {#if found.data}
    <p class="lead">
      The phone must be on this shop's network. Whoever reads these codes may come in: show them to
      your own people only. They stand for {minutes} more min; then there are new ones.
    </p>
    {#each found.data.ways as way (way.address)}
      <section>
        <h2 class="num">{way.address}</h2>
        <div class="codes">
          <figure>
            <img src={image(way.authority)} alt={`Code for the certificate of ${way.address}`} />
            <figcaption>
              <b>1. Trust this shop, once.</b> Read it with the camera, open it in spite of the warning,
              install the certificate. Without it the page works, but not when the network is gone.
            </figcaption>
          </figure>
          <figure>
            <img src={image(way.join)} alt={`Code to come in at ${way.address}`} />
            <figcaption>
              <b>2. Come in.</b> Read it, then add the page to the home screen. Open a job once while
              the network is there: from then on its fit sheet works without.
            </figcaption>
          </figure>
        </div>
      </section>
    {:else}
      <p>This machine is on no network.</p>
    {/each}
    <section aria-labelledby="devices">
      <h2 id="devices" class="font-semibold">Devices that may come in</h2>
      {#if trouble}<p class="text-error font-semibold" role="alert">{trouble}</p>{/if}
      <ul>
        {#each found.data.devices as one (one.key)}
          <li
            class="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5"
            data-device={one.key}
          >
            <input
              class="input"
              value={one.name}
              maxlength="120"
              aria-label={`Name of ${one.name}`}
              onchange={(event) => rename(one.key, event.currentTarget.value)}
            />
            <span class="quiet">in since {day(one.since)}, here last {day(one.seen)}</span>
            {#if asked === one.key}
              <span class="flex flex-wrap items-center gap-x-2 gap-y-1">
                Shut out {one.name}? What it has not sent yet stays on it.
                <button class="btn btn-sm btn-primary" onclick={() => shutOut(one.key)}
                  >Shut it out</button
                >
                <button class="btn btn-sm btn-ghost" onclick={() => (asked = '')}>Leave it</button>
              </span>
            {:else}
              <button class="btn btn-sm" onclick={() => (asked = one.key)}>Shut out</button>
            {/if}
          </li>
        {:else}
          <li class="ruled quiet py-1.5">None yet.</li>
        {/each}
      </ul>
    </section>
    <p class="quiet">
      Fingerprint to compare before trusting it: <span class="num print"
        >{found.data.fingerprint}</span
      >
    </p>
  {:else if found.error}
    <p>
      {found.error instanceof Refusal ? found.error.message : 'No answer.'}
    </p>
    <p class="quiet num">gentle-ember serve --lan</p>
  {/if}
</main>

<style>
  main {
    max-width: 56rem;
    margin: 0 auto;
    padding: 1.5rem;
    overflow-y: auto;
    width: 100%;
  }
  h1 {
    font-size: 1.6rem;
    font-weight: 750;
  }
  h2 {
    font-size: 1.1rem;
    margin: 1.2rem 0 0.4rem;
  }
  .codes {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
    gap: 1.5rem;
  }
  img {
    width: 14rem;
    height: 14rem;
    background: #fff;
    padding: 0.4rem;
    image-rendering: pixelated;
  }
  li .input {
    width: 14rem;
  }
  .print {
    word-break: break-all;
  }
</style>
