<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import Mark from '$lib/ui/Mark.svelte';

  const found = createQuery(() => ({
    queryKey: ['learned'],
    queryFn: () => ask(api.GET('/api/learned'))
  }));
  let groups = $derived.by(() => {
    const all = found.data ?? [];
    return [...new Set(all.map((one) => one.quantity))].map((quantity) => ({
      name: all.find((one) => one.quantity === quantity)?.name ?? quantity,
      rows: all.filter((one) => one.quantity === quantity)
    }));
  });
</script>

<svelte:head><title>What the shop learned · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>What the shop learned</h1>
  <p class="quiet">
    Measured against estimated, per class of set and fuel; few sets are drawn toward the estimate.
    It stands beside the next estimate, never in its place.
    <a href="/methods/lessons">How it is worked out</a>
  </p>
  {#each groups as group (group.name)}
    <section>
      <h2>{group.name.charAt(0).toUpperCase() + group.name.slice(1)}</h2>
      <table>
        <thead>
          <tr>
            <th>Class</th><th>Fuel</th><th class="n">Sets</th><th class="n">Measured ÷ estimated</th
            ><th class="n">Spread</th><th class="n">Taken as</th>
          </tr>
        </thead>
        <tbody>
          {#each group.rows as one (`${one.set_class}${one.fuel}`)}
            <tr data-learned={`${one.quantity} ${one.set_class} ${one.fuel}`}>
              <td>{one.set_class.replaceAll('_', ' ')}</td>
              <td
                ><span class="fuel flex gap-2 items-center"
                  ><Mark fuel={one.fuel} letter={one.letter} />{one.fuel_name}</span
                ></td
              >
              <td class="num n">{one.n}</td>
              <td class="num n">{one.mean}</td>
              <td class="num n">{one.spread}</td>
              <td class="num n">{one.shrunk} <span class="quiet">{one.band}</span></td>
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
  {:else}
    {#if found.data}
      <p>
        Nothing measured yet. A load test with the throttle open, a weigh-in, a clocked meter, a
        locked load screw or a jet that was kept each teach something; nothing simulated does.
      </p>
    {/if}
  {/each}
</main>

<style>
  main {
    max-width: 60rem;
    margin: 0 auto;
    padding: 1.4rem 1.2rem 3rem;
  }
  h1 {
    font-size: 1.45rem;
    font-weight: 700;
  }
  h2 {
    font-weight: 700;
    margin-top: 1rem;
  }
  table {
    width: 100%;
    table-layout: fixed;
  }
  th {
    text-align: left;
    font-weight: 600;
    font-size: 0.85rem;
    color: var(--muted);
  }
  .n {
    text-align: right;
  }
  th,
  td {
    padding: 0.25rem 0.6rem 0.25rem 0;
  }
  td {
    border-top: 1px solid var(--rule);
  }

  a {
    text-decoration: underline;
  }
  @media (max-width: 600px) {
    table {
      table-layout: auto;
    }
    td .quiet {
      display: block;
      white-space: nowrap;
    }
  }
</style>
