<script lang="ts">
  interface Props {
    text: string;
    unit: string;
    shown: string | number;
    value: number;
    most: number;
    step: number;
    set: (value: number) => void;
  }
  let { text, unit, shown, value, most, step, set }: Props = $props();
  const id = $props.id();
</script>

<label for={id}>{text} <b class="num">{shown}</b> {unit}</label>
<input
  {id}
  class="w-full range-xs"
  type="range"
  min="0"
  max={most}
  {step}
  {value}
  oninput={(event) => set(Number(event.currentTarget.value))}
/>
