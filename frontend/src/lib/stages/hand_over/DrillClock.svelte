<script lang="ts">
  import { takes } from '$lib/ui/focus';

  interface Props {
    last: boolean;
    wrong: number;
    seconds: number;
    moved: () => void;
    missed: () => void;
    stop: () => void;
  }
  let { last, wrong, seconds, moved, missed, stop }: Props = $props();
</script>

<div class="acts">
  <button class="btn btn-primary big" onclick={moved} use:takes={true}
    >{last ? 'Last move done' : 'Move done'}</button
  >
  <button class="btn big" onclick={missed}>Wrong move ({wrong})</button>
  <span class="num clock" aria-live="off">{seconds} s</span>
  <button class="btn btn-ghost" onclick={stop}>Stop</button>
</div>

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-top: 0.6rem;
  }
  .big {
    min-height: 3.2rem;
  }
  .clock {
    font-size: 1.4rem;
    min-width: 4rem;
    text-align: right;
  }
</style>
