<script lang="ts">
  import { pageOf } from '$lib/frame/current.svelte';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** What must not be done, as in "No start". */
    no: string;
    /** The fuel, where “no” does not name it already. */
    gas?: string;
    /** Everything of the job that forbids it now, each with where it is settled. */
    why: { text: string; path: string }[];
  }
  let { no, gas = '', why }: Props = $props();
  const job = useJob();
</script>

{#snippet settle(path: string)}
  {#if path}
    <a href={`/jobs/${job().id}/${pageOf(path)}?field=${path}`}>go there</a>
  {/if}
{/snippet}

{#if why.length}
  <div role="alert" data-not-tight>
    <b>{gas ? `${no} on ${gas}` : no}:</b>
    {#if why.length === 1 && why[0]}
      {why[0].text} {@render settle(why[0].path)}
    {:else}
      <ul>
        {#each why as one (`${one.path} ${one.text}`)}<li>
            {one.text}
            {@render settle(one.path)}
          </li>{/each}
      </ul>
    {/if}
  </div>
{/if}

<style>
  div {
    border-left: 4px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.4rem 0.7rem;
    margin-bottom: 0.7rem;
  }
  ul {
    list-style: disc;
    padding-left: 1.2rem;
  }
  a {
    text-decoration: underline;
    margin-right: 0.8rem;
  }
</style>
