<script lang="ts">
  interface Props {
    /** A picture of the chart. */
    look: string;
    size?: number;
  }
  let { look, size = 72 }: Props = $props();
  const id = $props.id();
  // Nose, electrodes and shell of our own drawing: hue second, pattern and line first.
  const NOSE: Record<string, string> = {
    tan: '#c79a6b',
    gray: '#c9c6c0',
    white: '#fbfaf6',
    blistered: '#efe9dc',
    soot: '#2c2926',
    oily: '#1e1b18',
    wet: '#d8d2bd',
    unchanged: '#efe6d4'
  };
  const METAL: Record<string, string> = {
    white: '#8d9db4',
    blistered: '#a08a6a',
    soot: '#3a3632',
    oily: '#26221e'
  };
  let nose = $derived(NOSE[look] ?? '#efe6d4');
  let metal = $derived(METAL[look] ?? '#8f8a83');
</script>

<svg width={size} height={size} viewBox="0 0 72 72" aria-hidden="true">
  <defs>
    <pattern id={`${id}-soot`} width="4" height="4" patternUnits="userSpaceOnUse">
      <circle cx="1" cy="1" r="0.9" fill="#7a736b" /><circle cx="3" cy="3" r="0.6" fill="#7a736b" />
    </pattern>
    <pattern id={`${id}-heat`} width="6" height="6" patternUnits="userSpaceOnUse">
      <path d="M0 6 6 0" stroke="#c9c2b4" stroke-width="0.8" />
    </pattern>
  </defs>
  <!-- Shell with its thread, seen from the side. -->
  <path d="M14 4h44v40l-5 5H19l-5-5Z" fill={metal} stroke="#26221e" stroke-width="1.4" />
  {#each [12, 19, 26, 33, 40] as y (y)}
    <path d={`M14 ${y}h44`} stroke="#26221e" stroke-width="0.9" opacity="0.55" />
  {/each}
  <!-- Nose of the insulator with the center electrode, ground strap over it. -->
  <path d="M26 26h20l-3 28H29Z" fill={nose} stroke="#26221e" stroke-width="1.4" />
  {#if look === 'soot'}
    <path d="M14 4h44v40l-5 5H19l-5-5Z" fill={`url(#${id}-soot)`} />
    <path d="M26 26h20l-3 28H29Z" fill={`url(#${id}-soot)`} />
  {:else if look === 'white'}
    <path d="M26 26h20l-3 28H29Z" fill={`url(#${id}-heat)`} />
  {:else if look === 'blistered'}
    {#each [[30, 32, 2.2], [38, 36, 2.8], [33, 43, 2], [40, 47, 1.8], [35, 50, 1.4]] as [x, y, r] (`${x}${y}`)}
      <circle cx={x} cy={y} {r} fill="#fffdf8" stroke="#6d5a3a" stroke-width="1" />
    {/each}
  {:else if look === 'oily'}
    <path
      d="M28 30c4 4 2 10 5 14s6 2 8 7"
      fill="none"
      stroke="#fff"
      stroke-width="1.6"
      opacity="0.75"
    />
    <path d="M18 8c6 5 2 12 6 18" fill="none" stroke="#fff" stroke-width="1.6" opacity="0.6" />
  {:else if look === 'wet'}
    {#each [[31, 38], [40, 33], [37, 48], [22, 30], [50, 36]] as [x, y] (`${x}${y}`)}
      <path
        d={`M${x} ${(y ?? 0) - 4}c2 3 2.6 4 2.6 5.4a2.6 2.6 0 0 1-5.2 0c0-1.4.6-2.4 2.6-5.4Z`}
        fill="#8fb6cf"
        stroke="#2b6482"
        stroke-width="0.8"
      />
    {/each}
  {:else if look === 'tan'}
    <path d="M28.5 40h15M29 45h14M29.5 50h13" stroke="#8a6238" stroke-width="1" opacity="0.7" />
  {/if}
  <path
    d="M33 54h6v5h-6Z"
    fill={look === 'blistered' ? '#6d5a3a' : metal}
    stroke="#26221e"
    stroke-width="1.2"
  />
  <path
    d={look === 'blistered' ? 'M56 46v14q-6 6-16 5l-2-2' : 'M56 46v14q0 6-6 6H32'}
    fill="none"
    stroke="#26221e"
    stroke-width="5"
  />
  <path
    d={look === 'blistered' ? 'M56 46v14q-6 6-16 5l-2-2' : 'M56 46v14q0 6-6 6H32'}
    fill="none"
    stroke={metal}
    stroke-width="2.6"
  />
</svg>
