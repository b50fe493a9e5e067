<script lang="ts">
  import type { SketchItem } from '$lib/api/client';
  import { ray } from './sketch';

  interface Props {
    kind: SketchItem['kind'];
    exhaust: number | null;
  }
  let { kind, exhaust }: Props = $props();
</script>

{#if kind === 'set'}
  <rect class="mark" x="-0.7" y="-0.5" width="1.4" height="1" rx="0.15" />
  {#if exhaust !== null}
    {@const pipe = ray(exhaust, 0.5, 1.5)}
    <line class="pipe" x1={pipe.a[0]} y1={pipe.a[1]} x2={pipe.b[0]} y2={pipe.b[1]} />
  {/if}
{:else if kind === 'opening'}
  <path class="mark" d="M-0.9 0.25h0.4v-0.5h1v0.5h0.4" />
{:else if kind === 'cylinder'}
  <circle class="mark" r="0.5" /><circle class="fill-base-content" r="0.14" />
{:else if kind === 'stub'}
  <path class="mark" d="M0 0.6V-0.3M-0.45-0.3h0.9" />
{:else}
  <rect class="mark" x="-0.6" y="-0.4" width="1.2" height="0.8" rx="0.35" />
{/if}

<style>
  .mark {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 0.14;
    stroke-linejoin: round;
    stroke-linecap: round;
  }
  .pipe {
    stroke: var(--color-primary);
    stroke-width: 0.2;
    stroke-linecap: round;
  }
</style>
