import { error } from '@sveltejs/kit';
import { QUICK } from '$lib/api/published';

/** Only the quick answers there are. */
export function load({ params }: { params: { name: string } }) {
  const entry = QUICK.find((one) => one.name === params.name);
  if (!entry) error(404, 'There is no such quick answer.');
  return { entry };
}
