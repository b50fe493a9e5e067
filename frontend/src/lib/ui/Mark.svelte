<script lang="ts">
  import { fuelOf, inkOf } from '$lib/ui/fuels';

  interface Props {
    letter: string;
    fuel: string;
  }
  let { letter, fuel }: Props = $props();
</script>

<span class={`mark ${fuelOf(fuel)?.hatch ?? 'plain'}`} style:--c={inkOf(fuel)} aria-hidden="true"
  ><span>{letter}</span></span
>

<style>
  .mark {
    display: inline-grid;
    place-items: center;
    width: 1.35rem;
    height: 1.35rem;
    flex: none;
    border: 1.5px solid var(--c);
    border-radius: 0.25rem;
    font-size: 0.75rem;
    font-weight: 700;
  }
  .mark span {
    background: var(--color-base-100);
    border-radius: 0.15rem;
    padding: 0 0.15rem;
    line-height: 1.05;
  }
  .slanted {
    background: repeating-linear-gradient(135deg, var(--c) 0 1.5px, transparent 1.5px 4px);
  }
  .level {
    background: repeating-linear-gradient(0deg, var(--c) 0 1.5px, transparent 1.5px 4px);
  }
  .dotted {
    background: radial-gradient(circle, var(--c) 1px, transparent 1.2px) 0 0 / 4px 4px;
  }
</style>
