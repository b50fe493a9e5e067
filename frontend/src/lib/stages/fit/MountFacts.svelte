<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Mount } from '$lib/stages/fit/sheet';

  interface Props {
    mount: Mount;
  }
  let { mount }: Props = $props();
</script>

<dl>
  {#if mount.bolt}<dt>Bolts</dt>
    <dd>
      {mount.thread} × <Figure figure={mount.bolt} />, {mount.wrench}, a washer each side
    </dd>{/if}
  {#if mount.passes.length}<dt>Drill</dt>
    <dd>
      {#each mount.passes as cut, at (at)}{at ? ', then ' : ''}{cut.bit}
        <span class="num">{cut.size}</span>{/each}
    </dd>{/if}
  {#if mount.depth}<dt>Depth stop</dt>
    <dd>
      <span class="num">{mount.depth[prefs.system]}</span>: {mount.behind} behind
    </dd>{/if}
  {#if mount.play}<dt>Gauge</dt>
    <dd>
      the bolt moves <span class="num">{mount.play[prefs.system]}</span> at most
    </dd>{/if}
  {#if mount.needs_behind}<dt>Behind</dt>
    <dd>
      nut and wrench take <span class="num">{mount.needs_behind[prefs.system]}</span>
    </dd>{/if}
</dl>

<style>
  dl {
    display: grid;
    grid-template-columns: 6.5rem 1fr;
    gap: 0.15rem 0.8rem;
  }
  dt {
    color: var(--muted);
  }
</style>
