import { error, redirect } from '@sveltejs/kit';
import { PAGES, STAGES } from '$lib/api/published';

/** A stage opens at its first page; a stage without pages of its own at its record. */
export function load({ params }: { params: { id: string; stage: string } }): never {
  if (!STAGES.some(({ key }) => key === params.stage)) error(404, 'There is no such stage.');
  const first = PAGES.find((entry) => entry.stage === params.stage)?.page;
  redirect(307, `/jobs/${params.id}/${first ?? `${params.stage}/record`}`);
}
