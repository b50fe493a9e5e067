import { api, ask, type Snapshot } from '$lib/api/client';
import { prefs } from './prefs.svelte';
import type { Write } from './kept';
import { sendFile } from './upload';

/** The job as the server holds it, with the sections a page needs. */
export function fetchJob(id: string, views: string): Promise<Snapshot> {
  const params = { path: { job_id: id }, query: { views } };
  return ask(api.GET('/api/jobs/{job_id}', { params }));
}

/** Send one write, or ask what it would do; sent twice by its key it is written once. */
export function sendWrite(
  id: string,
  write: Write & { preview?: boolean },
  views: string
): Promise<Snapshot> {
  const params = { path: { job_id: id } };
  const who = write.who ?? prefs.who;
  if (write.photo) {
    const { file, name, subject } = write.photo;
    return sendFile(id, write.key, file, name, subject, views, who);
  }
  const common = { key: write.key, who, views };
  if (write.kind === 'undo')
    return ask(api.POST('/api/jobs/{job_id}/undo', { params, body: common }));
  if (write.kind === 'redo')
    return ask(api.POST('/api/jobs/{job_id}/redo', { params, body: common }));
  const { changes, base, system, preview = false } = write;
  const body = { ...common, changes: changes as never, base, system, preview };
  // What stands below the fold follows when a change rests, so that a drag stays light.
  if (preview) body.views = views.replace(/,?\bruns\b/, '');
  return ask(api.PATCH('/api/jobs/{job_id}', { params, body }));
}
