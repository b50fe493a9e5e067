import { prefs } from '$lib/prefs.svelte';
import { writeKey } from './outbox';

/** Keep a file with a job; what is wrong with it in words, or nothing when it is kept. */
export async function keepFile(job: string, file: File, subject = ''): Promise<string> {
  const query = new URLSearchParams({ name: file.name, who: prefs.who, subject });
  try {
    const answer = await fetch(`/api/jobs/${job}/attachments?${query}`, {
      method: 'POST',
      headers: {
        'Idempotency-Key': writeKey(),
        'Content-Type': file.type || 'application/octet-stream'
      },
      body: file
    });
    return answer.ok ? '' : ((await answer.json()) as { detail: string }).detail;
  } catch {
    return `${file.name} was not kept: the server does not answer. Choose it again.`;
  }
}
