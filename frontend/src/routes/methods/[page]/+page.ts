import { error } from '@sveltejs/kit';
import { api, ask, Refusal } from '$lib/api/client';

/** A method's page, rendered by the server from docs/engineering. */
export async function load({ params }: { params: { page: string } }) {
  try {
    return { method: await ask(api.GET('/api/methods/{page}', { params: { path: params } })) };
  } catch (cause) {
    if (cause instanceof Refusal) error(cause.status || 503, cause.message);
    throw cause;
  }
}
