import { goto } from '$app/navigation';
import { prefs } from '$lib/session/prefs.svelte';
import { current } from './current.svelte';
import { PAGES, QUICK } from '$lib/api/published';

export interface Entry {
  title: string;
  detail: string;
  where: string;
  run: () => void;
}

function action(
  title: string,
  where: string,
  run: () => void,
  also = ''
): Entry & { also: string } {
  return { title, detail: '', where, run, also };
}

/** Pages and commands whose words all begin as typed. */
export function actions(text: string): Entry[] {
  const session = current.session;
  const id = session?.id ?? '';
  const all = [
    ...(session
      ? PAGES.map((entry) =>
          action(`${entry.name} of this job`, 'page', () => void goto(`/jobs/${id}/${entry.page}`))
        )
      : []),
    ...(session
      ? [
          action(
            'Bench mode',
            'page',
            () => void goto(`/jobs/${id}/fit/bench`),
            'fit steps gloves'
          ),
          action('Undo', 'command', () => session.undo()),
          action('Do again', 'command', () => session.redo(), 'redo'),
          action(
            'Save this job as a file',
            'command',
            () => {
              location.href = `/api/jobs/${id}/export`;
            },
            'export zip'
          ),
          action(
            'Save the output table',
            'command',
            () => {
              location.href = `/api/jobs/${id}/output.csv?system=${prefs.system}`;
            },
            'csv export'
          )
        ]
      : []),
    action('People', 'page', () => void goto('/people'), 'sign in passphrase role invite lead'),
    action('The shop', 'page', () => void goto('/shop'), 'settings name logo rate tax invoice'),
    action('Due on sets in service', 'page', () => void goto('/due'), 'upkeep round van week'),
    action('Catalog of parts', 'page', () => void goto('/catalog'), 'stock import csv kits'),
    action(
      'What the shop learned',
      'page',
      () => void goto('/learned'),
      'lessons measured library'
    ),
    action('Pair a phone', 'page', () => void goto('/pair'), 'lan qr network tablet'),
    action('Shop board', 'page', () => void goto('/'), 'jobs home'),
    ...QUICK.map((entry) =>
      action(`Quick ${entry.title.toLowerCase()}`, 'page', () => void goto(`/quick/${entry.name}`))
    ),
    action('Switch units', 'command', () => prefs.toggleUnits(), 'metric us'),
    action('Switch light', 'command', () => prefs.toggleTheme(), 'theme lamp dark day night'),
    action('Keys', 'help', () => (current.keys = true), 'shortcuts')
  ];
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return all.filter((entry) => {
    const names = `${entry.title} ${entry.also}`.toLowerCase().split(/\s+/);
    return words.every((word) => names.some((name) => name.startsWith(word)));
  });
}
