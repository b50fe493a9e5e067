<script lang="ts">
  import type { Mount } from './sheet';
  import { useJob } from '$lib/session/session.svelte';
  import FaceHoles from '$lib/stages/fit/FaceHoles.svelte';
  import FaceThings from '$lib/stages/fit/FaceThings.svelte';

  interface Props {
    mount: Mount;
  }
  let { mount }: Props = $props();
  const job = useJob();
  let svg = $state<SVGSVGElement>();
  let held = $state(false);
  const MM = 1000;
  let wide = $derived((mount.wide_m ?? 0) * MM);
  let high = $derived((mount.high_m ?? 0) * MM);
  let unit = $derived(Math.max(wide, high) / 100);
  let pad = $derived(unit * 13);
  const y = (value: number) => high - value * MM;
  let hooks = $derived(job().settled?.job.marks?.[mount.key]?.hooks ?? []);
  let edges = $derived([
    { edge: 'left', d: `M0 0V${high}` },
    { edge: 'right', d: `M${wide} 0V${high}` },
    { edge: 'top', d: `M0 0H${wide}` },
    { edge: 'bottom', d: `M0 ${high}H${wide}` }
  ] as const);

  /** Where the center goes, on whole millimeters; the plan is asked what follows from it. */
  function changes(left: number, up: number) {
    const typed = (value: number) => ({
      value: Math.round(value * MM) / MM,
      origin: 'measured',
      typed: `${Math.round(value * MM)} mm`
    });
    return [
      { path: `marks.${mount.key}.left`, value: typed(Math.min(Math.max(left, 0), wide / MM)) },
      { path: `marks.${mount.key}.up`, value: typed(Math.min(Math.max(up, 0), high / MM)) }
    ];
  }

  function under(event: PointerEvent): [number, number] {
    const box = svg?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(box);
    return [at.x / MM, (high - at.y) / MM];
  }

  function move(event: PointerEvent) {
    if (held) void job().peek(changes(...under(event)));
  }

  function drop(event: PointerEvent) {
    if (!held) return;
    held = false;
    job().setAll(changes(...under(event)));
  }

  const STEPS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, 1],
    ArrowDown: [0, -1]
  };
  function nudge(event: KeyboardEvent) {
    const step = STEPS[event.key];
    if (!step || !mount.center) return;
    event.preventDefault();
    const by = (event.shiftKey ? 10 : 1) / MM;
    // From where it is on its way to, when keys come faster than answers.
    const under = (name: string, now: number) =>
      (job().pending(`marks.${mount.key}.${name}`)?.value as { value?: number } | undefined)
        ?.value ?? now;
    const left = under('left', mount.center[0] ?? 0);
    const up = under('up', mount.center[1] ?? 0);
    job().setAll(changes(left + step[0] * by, up + step[1] * by));
  }
</script>

<svg
  bind:this={svg}
  viewBox={`${-pad} ${-pad} ${wide + 2 * pad} ${high + pad + unit * 2}`}
  role="group"
  aria-label={`Face of ${mount.name || 'the mount'}`}
  onpointermove={move}
  onpointerup={drop}
  onpointerleave={drop}
  style:--u={`${unit}px`}
  data-face={mount.key}
>
  <defs>
    <pattern
      id={`hatch-${mount.key}`}
      width={unit * 2}
      height={unit * 2}
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <path class="hatch" d={`M0 0V${unit * 2}`} />
    </pattern>
  </defs>
  <rect class="face" width={wide} height={high} />
  <FaceThings {mount} {wide} {high} {unit} />
  {#each edges as one (one.edge)}
    {#if hooks.includes(one.edge)}<path class="hook" d={one.d} />{/if}
  {/each}
  {#if mount.center && mount.body}
    {@const [cx = 0, cy = 0] = mount.center}
    {@const [across = 0, up = 0] = mount.body}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <rect
      class="body"
      class:bad={!mount.ready}
      x={(cx - across / 2) * MM}
      y={y(cy + up / 2)}
      width={across * MM}
      height={up * MM}
      tabindex="0"
      role="application"
      aria-label={`${mount.part}: move with the arrow keys, 10 mm with Shift`}
      onkeydown={nudge}
      onpointerdown={(event) => {
        held = true;
        event.preventDefault();
      }}
    />
    <FaceHoles {mount} {wide} {high} {unit} />
  {/if}
</svg>

<style>
  svg {
    width: 100%;
    max-height: 26rem;
    touch-action: none;
    font-family: var(--font-sans);
  }
  .face {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: calc(var(--u) * 0.35);
  }
  .hook {
    stroke: var(--color-base-content);
    stroke-width: calc(var(--u) * 1.1);
  }
  .hatch {
    stroke: var(--muted);
    stroke-width: calc(var(--u) * 0.3);
  }
  .body {
    fill: var(--color-primary);
    fill-opacity: 0.14;
    stroke: var(--color-primary);
    stroke-width: calc(var(--u) * 0.5);
    cursor: grab;
  }
  .bad {
    fill: var(--color-error);
    stroke: var(--color-error);
  }
</style>
