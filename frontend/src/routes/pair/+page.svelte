<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask, Refusal } from '$lib/api/client';

  const found = createQuery(() => ({
    queryKey: ['pair'],
    queryFn: () => ask(api.GET('/api/pair')),
    retry: false
  }));
  const image = (svg: string) => `data:image/svg+xml,${encodeURIComponent(svg)}`;
</script>

<svelte:head><title>Pair a phone · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>Pair a phone</h1>
  {#if found.data}
    <p class="lead">
      The phone must be on this shop's network. Whoever reads these codes may come in: show them to
      your own people only.
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
  .print {
    word-break: break-all;
  }
</style>
