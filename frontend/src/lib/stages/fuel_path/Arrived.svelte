<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import Camera from '@lucide/svelte/icons/camera';
  import type { Bill } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    line: Bill['groups'][number]['lines'][number];
  }
  let { line }: Props = $props();
  const job = useJob();
  let field = $state<HTMLInputElement>();
  let photos = $derived(
    Object.values(job().settled?.job.attachments ?? {}).filter(
      (one) => one.subject === `arrived.${line.key}`
    ).length
  );

  function check(on: boolean) {
    const count = on ? line.whole : 0;
    job().set(`arrived.${line.key}`, {
      count,
      on: count ? new Date().toISOString().slice(0, 10) : '',
      by: count ? prefs.who : '',
      note: ''
    });
  }

  function photo(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    if (!file) return;
    job().photo(file, `arrived.${line.key}`);
    if (field) field.value = '';
  }
</script>

<span class="inline-flex items-center gap-[.2rem] no-print">
  <Tick
    path={`arrived.${line.key}`}
    checked={line.here}
    label={`${line.name} is here`}
    change={check}
  />
  {#if line.here}
    <button
      type="button"
      class="btn btn-ghost btn-xs"
      aria-label={`Photo of ${line.name} as it came`}
      onclick={() => field?.click()}><Camera size={15} />{photos || ''}</button
    >
    <input bind:this={field} type="file" accept="image/*" hidden onchange={photo} />
  {/if}
</span>
