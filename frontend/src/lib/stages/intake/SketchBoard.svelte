<script lang="ts">
  import type { SketchItem, Snapshot } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    at: string;
    items: Record<string, SketchItem>;
    exhaust: number | null;
    wind: number | null;
    measures: NonNullable<Snapshot['sketch']>;
    selected: string;
  }
  let { at, items, exhaust, wind, measures, selected = $bindable() }: Props = $props();
  const job = useJob();
  const WIDE = 30;
  const HIGH = 18;
  const NAMES = {
    set: 'Set',
    opening: 'Opening',
    cylinder: 'Cylinder',
    stub: 'Gas stub',
    remote_tank: 'Remote tank'
  };
  let board: SVGSVGElement | undefined = $state();
  let dragged = $state<{ key: string; x: number; y: number }>();
  let active = $state(false);
  let shown = $derived(
    Object.entries(items).map(([key, item]) => ({
      key,
      ...item,
      x: dragged?.key === key ? dragged.x : item.x,
      y: dragged?.key === key ? dragged.y : item.y
    }))
  );
  let machine = $derived(shown.find((item) => item.kind === 'set'));

  function place(event: PointerEvent): { x: number; y: number } {
    const box = board?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    const inside = (value: number, most: number) =>
      Math.round(Math.min(most - 0.5, Math.max(0.5, value)) * 10) / 10;
    return {
      x: inside(((event.clientX - box.left) / box.width) * WIDE, WIDE),
      y: inside(((event.clientY - box.top) / box.height) * HIGH, HIGH)
    };
  }

  function changes(key: string, x: number, y: number) {
    return [
      { path: `${at}.sketch.items.${key}.x`, value: x },
      { path: `${at}.sketch.items.${key}.y`, value: y }
    ];
  }

  function down(event: PointerEvent, key: string) {
    selected = key;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const item = items[key];
    active = Boolean(item);
    if (item) dragged = { key, x: item.x, y: item.y };
  }

  function move(event: PointerEvent) {
    if (!dragged || !active) return;
    dragged = { key: dragged.key, ...place(event) };
    void job().peek(changes(dragged.key, dragged.x, dragged.y));
  }

  function up() {
    active = false;
    if (!dragged) return;
    const { key, x, y } = dragged;
    const item = items[key];
    if (item && (item.x !== x || item.y !== y)) job().setAll(changes(key, x, y));
    else job().drop();
  }

  // A mark stays where it was put down until the job says so too.
  $effect(() => {
    const item = dragged && items[dragged.key];
    if (!active && dragged && (!item || (item.x === dragged.x && item.y === dragged.y)))
      dragged = undefined;
  });

  const STEPS: Record<string, [number, number]> = {
    ArrowLeft: [-0.5, 0],
    ArrowRight: [0.5, 0],
    ArrowUp: [0, -0.5],
    ArrowDown: [0, 0.5]
  };
  let rest: ReturnType<typeof setTimeout> | undefined;
  function key(event: KeyboardEvent, name: string) {
    const step = STEPS[event.key];
    const item = dragged?.key === name ? dragged : items[name];
    if (event.key === 'Delete' && item) job().remove(`${at}.sketch.items.${name}`);
    if (!step || !item) return;
    event.preventDefault();
    selected = name;
    active = true;
    const x = Math.min(WIDE - 0.5, Math.max(0.5, item.x + step[0]));
    const y = Math.min(HIGH - 0.5, Math.max(0.5, item.y + step[1]));
    dragged = { key: name, x, y };
    void job().peek(changes(name, x, y));
    clearTimeout(rest);
    rest = setTimeout(up, 350);
  }

  function ray(degrees: number, from: number, to: number) {
    const angle = (degrees * Math.PI) / 180;
    const point = (r: number) => [Math.sin(angle) * r, -Math.cos(angle) * r] as const;
    return { a: point(from), b: point(to) };
  }
  function fan(degrees: number, reach: number) {
    const [a, b] = [degrees - 45, degrees + 45].map((one) => ray(one, 0, reach).b);
    return a && b ? `M0 0 L${a[0]} ${a[1]} A${reach} ${reach} 0 0 1 ${b[0]} ${b[1]}Z` : '';
  }
</script>

<svelte:window onpagehide={() => active && up()} />

<svg
  bind:this={board}
  viewBox={`0 0 ${WIDE} ${HIGH}`}
  role="group"
  aria-label="Site sketch, drag or use the arrow keys"
>
  <defs>
    <pattern id="meter" width="1" height="1" patternUnits="userSpaceOnUse">
      <path d="M1 0H0V1" class="grid" />
    </pattern>
  </defs>
  <rect width={WIDE} height={HIGH} fill="url(#meter)" class="ground" />
  {#if machine}
    <g transform={`translate(${machine.x} ${machine.y})`}>
      {#if exhaust !== null}<path class="fan" d={fan(exhaust, 6)} />{/if}
    </g>
    {#each shown.filter((item) => item.kind !== 'set') as item (item.key)}
      {@const measure = measures.find((one) => one.key === item.key)}
      {@const bad = Boolean(measure?.trouble)}
      <line class="span" class:bad x1={machine.x} y1={machine.y} x2={item.x} y2={item.y} />
      {#if measure}
        {@const value = measure.figure[prefs.system]}
        <text
          class="span-text"
          class:bad
          x={(machine.x + item.x) / 2}
          y={(machine.y + item.y) / 2 - 0.2}
          text-anchor="middle">{value.text} {value.unit}</text
        >
      {/if}
    {/each}
  {/if}
  {#if wind !== null}
    <g class="wind" transform="translate(2 1.6)">
      <g transform={`rotate(${wind})`}>
        <path d="M0-1.1V0.9M-0.4 0.4 0 0.95 0.4 0.4" />
      </g>
      <text x="1.5" y="0.2">wind</text>
    </g>
  {/if}
  {#each shown as item (item.key)}
    <g
      class="item"
      class:selected={selected === item.key}
      data-item={item.key}
      transform={`translate(${item.x} ${item.y})`}
      tabindex="0"
      role="button"
      aria-label={`${item.name || NAMES[item.kind]}, ${item.x} m across, ${item.y} m down`}
      onpointerdown={(event) => down(event, item.key)}
      onpointermove={move}
      onpointerup={up}
      onkeydown={(event) => key(event, item.key)}
      onfocus={() => (selected = item.key)}
    >
      <circle class="grip" r="1.3" />
      {#if item.kind === 'set'}
        <rect class="mark" x="-0.7" y="-0.5" width="1.4" height="1" rx="0.15" />
        {#if exhaust !== null}
          {@const pipe = ray(exhaust, 0.5, 1.5)}
          <line class="pipe" x1={pipe.a[0]} y1={pipe.a[1]} x2={pipe.b[0]} y2={pipe.b[1]} />
        {/if}
      {:else if item.kind === 'opening'}
        <path class="mark" d="M-0.9 0.25h0.4v-0.5h1v0.5h0.4" />
      {:else if item.kind === 'cylinder'}
        <circle class="mark" r="0.5" /><circle class="fill-base-content" r="0.14" />
      {:else if item.kind === 'stub'}
        <path class="mark" d="M0 0.6V-0.3M-0.45-0.3h0.9" />
      {:else}
        <rect class="mark" x="-0.6" y="-0.4" width="1.2" height="0.8" rx="0.35" />
      {/if}
      <text class="font-semibold" y="1.5" text-anchor="middle">{item.name || NAMES[item.kind]}</text
      >
    </g>
  {/each}
</svg>

<style>
  svg {
    width: 100%;
    display: block;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    background: var(--color-base-100);
    touch-action: none;
    user-select: none;
  }
  .grid {
    fill: none;
    stroke: var(--rule);
    stroke-width: 0.03;
  }
  .span {
    stroke: var(--muted);
    stroke-width: 0.06;
    stroke-dasharray: 0.25 0.18;
  }
  .span.bad {
    stroke: var(--color-error);
    stroke-width: 0.11;
    stroke-dasharray: none;
  }
  text {
    font-size: 0.62px;
    fill: var(--color-base-content);
    paint-order: stroke;
    stroke: var(--color-base-100);
    stroke-width: 0.16px;
  }
  .span-text {
    font-family: var(--font-mono);
  }
  .span-text.bad {
    fill: var(--color-error);
    font-weight: 700;
  }

  .item {
    cursor: grab;
    outline: none;
  }
  .grip {
    fill: transparent;
  }
  .item:focus-visible .grip,
  .selected .grip {
    stroke: var(--color-primary);
    stroke-width: 0.08;
  }
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
  .fan {
    fill: color-mix(in oklab, var(--color-primary) 14%, transparent);
  }
  .wind path {
    fill: none;
    stroke: var(--color-info);
    stroke-width: 0.14;
    stroke-linecap: round;
  }
  @media (max-width: 600px) {
    text {
      font-size: 1.05px;
    }
  }
</style>
