<script lang="ts">
  interface Props {
    text: string;
    on: boolean | null | undefined;
    set: (on: boolean) => void;
  }
  let { text, on, set }: Props = $props();
</script>

<label class="tick"
  ><input
    class="checkbox checkbox-sm"
    type="checkbox"
    checked={on ?? false}
    onchange={(event) => set(event.currentTarget.checked)}
  />{text}</label
>

<style>
  .tick {
    display: inline-flex;
    gap: 0.35rem;
    align-items: center;
    font-weight: 400;
  }
</style>
