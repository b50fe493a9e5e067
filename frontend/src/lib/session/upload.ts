import { counted } from '$lib/api/settled';
import { Refusal, type ProblemBody, type Snapshot } from '$lib/api/client';
import { prefs } from './prefs.svelte';

/** Send a file of a job; the same key twice keeps it once. */
export async function sendFile(
  job: string,
  key: string,
  file: Blob,
  name: string,
  subject: string,
  views = '',
  who = prefs.who
): Promise<Snapshot> {
  const query = new URLSearchParams({ name, who, subject, views });
  let answer: Response;
  try {
    answer = await counted(`/api/jobs/${job}/attachments?${query}`, {
      method: 'POST',
      headers: {
        'Idempotency-Key': key,
        'Content-Type': file.type || 'application/octet-stream'
      },
      body: file
    });
  } catch {
    const detail = `${name} is not sent yet: the server does not answer.`;
    throw new Refusal({ title: 'No answer', detail, status: 0, errors: [] });
  }
  const body = (await answer.json()) as unknown;
  if (!answer.ok) throw new Refusal(body as ProblemBody);
  return body as Snapshot;
}
