<script lang="ts">
  import type { components } from '$lib/api/schema';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    drill: components['schemas']['DrillOut'];
    leave: (reason: string) => void;
  }
  let { drill, leave }: Props = $props();
  let reason = $state('');
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    leave(reason.trim());
    reason = '';
  }}
>
  <label for={`${drill.key}-why`}>Not done today, because</label>
  <input id={`${drill.key}-why`} class="input" bind:value={reason} />
  <button class="btn" disabled={!reason.trim() || !prefs.who}>Leave it</button>
</form>

<style>
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-top: 0.6rem;
  }
  form input {
    flex: 1;
    min-width: 12rem;
  }
</style>
