<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import type { Jets } from '$lib/stages/load_test/types';

  interface Props {
    jets: Jets;
    settle: (number: number, school: string) => void;
  }
  let { jets, settle }: Props = $props();
</script>

<section class="ruled pt-2 mt-2" aria-labelledby="schools">
  <h2 class="font-bold" id="schools">Schools side by side</h2>
  <table>
    <tbody>
      {#each jets.wanted as one, i (one.key)}
        <tr data-school={one.key}>
          <td class="value"><Figure figure={one} size="big" /></td>
          <td>
            <b>{one.label}</b>
            {#if i === 0}<span class="quiet">&nbsp;default</span>{/if}
          </td>
          <td class="quiet">{one.method.formula}</td>
          <td>
            {#if jets.picks[i]}
              <button
                class="btn btn-sm"
                disabled={jets.picks[i] === jets.pick}
                onclick={() => settle(jets.picks[i] ?? 0, one.label)}
                >Go by it: <span class="num">{jets.picks[i]}</span></button
              >
            {/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if jets.as_it_is}
    <p class={`mixed ${jets.state}`} data-lambda={jets.state}>
      With <span class="num">{jets.in_it}</span> in it: λ about <Figure figure={jets.as_it_is} />
      at load here, on a standard day. {jets.text}
    </p>
  {/if}
  {#if jets.coldest}
    <p data-coldest>
      On the coldest night, the leanest of the year: λ about <Figure
        figure={jets.coldest}
        warned={false}
      />.
    </p>
  {/if}
</section>

<style>
  td {
    text-align: left;
    padding: 0.15rem 1.2rem 0.15rem 0;
    vertical-align: baseline;
  }
  .value {
    text-align: right;
    min-width: 5rem;
  }
  @media (max-width: 600px) {
    td:nth-child(3).quiet {
      display: none;
    }
  }
</style>
