<script lang="ts">
  import Paperclip from '@lucide/svelte/icons/paperclip';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let message = $derived(job().errors.attachments ?? '');
  let files = $derived(Object.entries(job().settled?.job.attachments ?? {}));

  function attach(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    for (const file of input.files ?? []) job().photo(file, '');
    input.value = '';
  }

  const size = (bytes: number) =>
    bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
</script>

<ul>
  {#each files as [key, file] (key)}
    <li>
      <Paperclip size={15} />
      <a href={`/api/jobs/${job().id}/attachments/${key}`}>{file.name}</a>
      <span class="quiet num">{size(file.size)}</span>
      <button
        class="btn btn-ghost btn-xs"
        aria-label={`Remove ${file.name}`}
        onclick={() => job().remove(`attachments.${key}`)}><Trash size={14} /></button
      >
    </li>
  {/each}
</ul>
<label class="btn btn-sm">
  <Paperclip size={15} />Add a file
  <input class="sr" type="file" multiple onchange={attach} />
</label>
<span class="quiet" role="status">{message}</span>

<style>
  li {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    padding: 0.2rem 0;
  }
  a {
    text-decoration: underline;
  }
  ul {
    margin-bottom: 0.5rem;
  }
</style>
