/** How long nothing may be on its way before what came counts as drawn [ms]. */
const DRAWN = 80;
let under = 0;
let timer: ReturnType<typeof setTimeout> | undefined;

/** The document carries `data-settled` while nothing is on its way and what came is drawn. */
export function look(): void {
  clearTimeout(timer);
  if (under) delete document.documentElement.dataset.settled;
  else timer = setTimeout(() => (document.documentElement.dataset.settled = ''), DRAWN);
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
