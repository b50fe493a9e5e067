import type { Figure } from '$lib/api/client';

/** Which figure's working is open; one at a time for the whole page. */
class Working {
  figure = $state.raw<Figure>();

  open(figure: Figure): void {
    this.figure = figure;
  }

  close(): void {
    this.figure = undefined;
  }
}

export const working = new Working();
