import { PAGES } from '$lib/api/published';
import type { JobSession } from '$lib/session/session.svelte';

/** What the keys and the finder act on: the open job, and which dialog is up. */
class Current {
  session = $state.raw<JobSession>();
  finder = $state(false);
  keys = $state(false);
}

export const current = new Current();

/** Where a field of the job is filled in: the page whose place fits it longest. */
export function pageOf(path: string): string {
  const keys = path.split('.');
  let best = { page: 'intake/set', length: -1 };
  for (const { page, facts } of PAGES)
    for (const place of facts) {
      const wanted = place.split('.');
      if (wanted.length <= best.length || wanted.length > keys.length) continue;
      if (wanted.every((key, i) => key === '*' || key === keys[i]))
        best = { page, length: wanted.length };
    }
  return best.page;
}

/** What the page at an address wants along with its job. */
export function viewsAt(address: string): string {
  return PAGES.find(({ page }) => address.includes(`/${page}`))?.views ?? '';
}
