import { goto } from '$app/navigation';
import { page } from '$app/state';
import { prefs } from '$lib/session/prefs.svelte';
import { current } from './current.svelte';
import { STAGES } from '$lib/api/published';

export const KEYS = [
  ['/', 'find or run anything'],
  ['[  ]', 'stage before, stage after'],
  ['w', 'working of the focused figure'],
  ['u', 'units: US or metric'],
  ['Space', 'done, next (bench mode)'],
  ['← →', 'step before, step after (bench mode)'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'do again'],
  ['Enter', 'save the field'],
  ['Esc', 'let go of what was typed; close'],
  ['?', 'this list']
] as const;

/** A dialog that was just closed may keep the focus for a moment: its fields count no more. */
function inField(element: Element | null): boolean {
  const field = element?.closest('input, textarea, select, [contenteditable]');
  return Boolean(field && !field.closest('dialog:not([open])'));
}

/** Go to the stage before (-1) or after (+1) the one on show. */
export function step(by: number): void {
  const session = current.session;
  if (!session) return;
  const here = STAGES.findIndex(({ key }) => page.url.pathname.includes(`/${key}`));
  const next = STAGES[here + by];
  if (here >= 0 && next) void goto(`/jobs/${session.id}/${next.key}`);
}

function showWorking(): void {
  const element =
    document.activeElement?.closest<HTMLElement>('[data-figure]') ??
    document.querySelector<HTMLElement>('[data-figure]:hover') ??
    document.querySelector<HTMLElement>('main [data-figure]');
  element?.click();
}

/** Single keys work only while no field or button has the focus; `w` also on a figure. */
export function onkeydown(event: KeyboardEvent): void {
  const focus = document.activeElement;
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
    // Inside a field that is being typed in, the browser's own undo is meant.
    const path = focus?.closest<HTMLElement>('[data-field]')?.dataset.field;
    if (inField(focus) && path && current.session?.drafts[path]) return;
    if (!current.session) return;
    event.preventDefault();
    if (event.shiftKey) current.session.redo();
    else current.session.undo();
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey || inField(focus)) return;
  if (document.querySelector('dialog[open]')) return;
  const onFigure = Boolean(focus?.closest('[data-figure]'));
  if (event.key === 'w') showWorking();
  else if (
    focus?.closest('button, a') &&
    !onFigure &&
    !['/', '?', 'u', '[', ']'].includes(event.key)
  )
    return;
  else if (event.key === '/') current.finder = true;
  else if (event.key === '?') current.keys = true;
  else if (event.key === 'u') prefs.toggleUnits();
  else if (event.key === '[') step(-1);
  else if (event.key === ']') step(1);
  else return;
  event.preventDefault();
}
