<script lang="ts">
  interface Props {
    title: string;
    strokes: number[][];
  }
  let { title, strokes = $bindable() }: Props = $props();
  const WIDE = 1000;
  const HIGH = 300;
  let pad = $state<SVGSVGElement>();
  let down = $state(false);
  /** A finger or the mouse has it, so that no pen of the keys is shown. */
  let held = false;
  let keyed = $state(false);
  // Wiped, the pen is up again.
  $effect(() => {
    if (!strokes.length) draws = false;
  });

  function place(event: PointerEvent): [number, number] {
    const box = pad?.getBoundingClientRect();
    if (!box?.width) return [0, 0];
    const within = (value: number, most: number) => Math.round(Math.min(most, Math.max(0, value)));
    return [
      within(((event.clientX - box.left) / box.width) * WIDE, WIDE),
      within(((event.clientY - box.top) / box.height) * HIGH, HIGH)
    ];
  }

  function press(event: PointerEvent) {
    event.preventDefault();
    held = true;
    pad?.setPointerCapture?.(event.pointerId);
    down = true;
    strokes.push(place(event));
  }

  function lift() {
    down = held = false;
  }

  function move(event: PointerEvent) {
    const stroke = strokes.at(-1);
    if (!down || !stroke || stroke.length > 1990) return;
    const [x, y] = place(event);
    // Nearer than this to the last place it is the same one: a finger rests.
    if (Math.hypot(x - (stroke.at(-2) ?? 0), y - (stroke.at(-1) ?? 0)) >= 4) stroke.push(x, y);
  }

  /** Where the pen is when keys move it, and whether it draws. */
  let pen = $state<[number, number]>([100, 200]);
  let draws = $state(false);
  const KEYS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1]
  };

  /** Arrows move the pen, Shift farther; Space puts it down and lifts it. */
  function pressed(event: KeyboardEvent) {
    const way = KEYS[event.key];
    if (event.key === ' ') {
      draws = !draws;
      if (draws) strokes.push([...pen]);
    } else if (way) {
      const far = event.shiftKey ? 60 : 20;
      pen = [
        Math.min(WIDE, Math.max(0, pen[0] + far * way[0])),
        Math.min(HIGH, Math.max(0, pen[1] + far * way[1]))
      ];
      const stroke = strokes.at(-1);
      if (draws && stroke && stroke.length < 1990) stroke.push(...pen);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<!-- An application takes the keys and the pointer itself: that is what it is one for. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<svg
  bind:this={pad}
  viewBox={`0 0 ${WIDE} ${HIGH}`}
  role="application"
  tabindex="0"
  aria-label={`${title}: sign here with a finger or the mouse. By keys: arrows move the pen, Shift farther, Space puts it down and lifts it.`}
  onkeydown={pressed}
  onfocus={() => (keyed = !held)}
  onblur={() => (keyed = false)}
  onpointerdown={press}
  onpointermove={move}
  onpointerup={lift}
  onpointercancel={lift}
>
  <line x1="40" x2={WIDE - 40} y1="235" y2="235" class="base" />
  {#each strokes as stroke, at (at)}
    <polyline points={stroke.join(' ')} />
  {/each}
  {#if keyed}<circle cx={pen[0]} cy={pen[1]} r="10" class:draws />{/if}
</svg>
{#if keyed}
  <p class="says" role="status">
    Pen {draws ? 'down' : 'up'}: arrows move it, Space {draws ? 'lifts it' : 'puts it down'}.
  </p>
{/if}

<style>
  svg {
    width: 100%;
    height: auto;
    border: 1.5px solid var(--muted);
    border-radius: 0.4rem;
    background: var(--color-base-100);
    touch-action: none;
    cursor: crosshair;
  }
  polyline {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 5;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .base {
    stroke: var(--rule);
    stroke-width: 2;
  }
  circle {
    fill: none;
    stroke: var(--color-primary);
    stroke-width: 3;
  }
  .draws {
    fill: var(--color-primary);
  }
</style>
