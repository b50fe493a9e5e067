import { redirect } from '@sveltejs/kit';

/** A job opens at its set; the Route shows where the work stands. */
export function load({ params }: { params: { id: string } }): never {
  redirect(307, `/jobs/${params.id}/intake/set`);
}
