<script lang="ts">
  import Camera from '@lucide/svelte/icons/camera';
  import X from '@lucide/svelte/icons/x';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** What the photo shows, as a path of the job. */
    subject: string;
    label: string;
  }
  let { subject, label }: Props = $props();
  const job = useJob();
  let message = $derived(job().errors[subject] ?? '');
  let coming = $derived(
    job().queued.flatMap((write) => (write.photo?.subject === subject ? [write.photo] : []))
  );
  let photos = $derived(
    Object.entries(job().settled?.job.attachments ?? {}).filter(
      ([, file]) => file.subject === subject
    )
  );

  function add(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    for (const file of input.files ?? []) job().photo(file, subject);
    input.value = '';
  }
</script>

<div class="flex flex-wrap gap-[.4rem] items-center" data-photos={subject}>
  {#each photos as [key, file] (key)}
    <span class="photo">
      <a href={`/api/jobs/${job().id}/photos/${key}`} target="_blank" rel="noreferrer">
        <img src={`/api/jobs/${job().id}/photos/${key}`} alt={`${label}: ${file.name}`} />
      </a>
      <button
        aria-label={`Remove photo ${file.name}`}
        title="Remove (undo brings it back)"
        onclick={() => job().remove(`attachments.${key}`)}><X size={13} /></button
      >
    </span>
  {/each}
  {#each coming as photo, at (at)}
    <span class="quiet" data-coming>{photo.name}, kept here</span>
  {/each}
  <label class="btn btn-sm btn-ghost" title={`Photo: ${label}`}>
    <Camera size={16} /><span class="sr">Photo: {label}</span>
    <input class="sr" type="file" accept="image/*" multiple onchange={add} />
  </label>
  {#if message}
    <p class="says wrong" role="status">
      {message}
      <button class="link" onclick={() => job().forget(subject)}>Let it go</button>
    </p>
  {/if}
</div>

<style>
  .photo {
    position: relative;
  }
  img {
    width: 3.2rem;
    height: 2.4rem;
    object-fit: cover;
    border-radius: 0.25rem;
    border: 1px solid var(--rule);
  }
  .photo button {
    position: absolute;
    top: -0.4rem;
    right: -0.4rem;
    background: var(--color-base-100);
    border: 1px solid var(--rule);
    border-radius: 50%;
    padding: 0.15rem;
    cursor: pointer;
  }
  .says {
    flex-basis: 100%;
  }
</style>
