/** How long nothing may be on its way before what came counts as drawn [ms]. */
const DRAWN = 80;
let under = 0;
let timer: ReturnType<typeof setTimeout> | undefined;

/** The document carries `data-settled` while nothing is on its way and what came is drawn. */
export function look(): void {
  clearTimeout(timer);
  // A page that has gone meanwhile has nothing to be told.
  const page = globalThis.document?.documentElement;
  if (!page) return;
  if (under) delete page.dataset.settled;
  else timer = setTimeout(() => (page.dataset.settled = ''), DRAWN);
}

/** A request, counted while it is on its way. */
export async function counted(asked: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  under += 1;
  look();
  try {
    return await fetch(asked, init);
  } finally {
    under -= 1;
    look();
  }
}
