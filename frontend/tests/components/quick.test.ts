import { fireEvent, screen, waitFor } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Answered, QuickForm } from '$lib/api/client';
import Answers from '$lib/quick/Answers.svelte';
import Form from '$lib/quick/Form.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import { shop } from '../shop';
import { figure, inJob, opened } from './inJob';

type Field = QuickForm['fields'][number];

const field = (changes: Partial<Field>): Field => ({
  name: 'load_w',
  label: 'Planned load',
  kind: 'power',
  quantity: true,
  default: 1500,
  sample: '1500 W',
  assumed: '',
  low: 0,
  high: 60000,
  when: { field: '', is_one_of: [] },
  options: [],
  ...changes
});

const FORM: QuickForm = {
  key: 'gas-pipe',
  title: 'Gas pipe',
  text: 'What a pipe passes.',
  caution: 'Not for hose.',
  fields: [
    field({
      name: 'solve',
      label: 'Asked',
      kind: 'choice',
      quantity: false,
      default: 'bore',
      sample: '',
      options: [
        { value: 'bore', text: 'which size is wanted' },
        { value: 'flow', text: 'what it passes' }
      ]
    }),
    field({}),
    field({
      name: 'elevation_k',
      label: 'Air',
      kind: 'temperature',
      default: null,
      sample: '',
      assumed: 273.15
    }),
    field({
      name: 'nominal_w',
      label: 'Size',
      default: 100,
      sample: '100 W',
      when: { field: 'solve', is_one_of: ['flow'] }
    })
  ]
};

const nothing: Answered = { figures: [], said: [], tables: [], notes: [], cylinder: null };

describe('a quick answer', () => {
  let session: JobSession;
  let asked: { path: string; body: Record<string, unknown> }[];
  let answers: (path: string, body: Record<string, unknown>) => Response;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
    asked = [];
    answers = () => Response.json({ ...nothing, figures: [figure({ key: 'pipe.flow' })] });
    vi.spyOn(shop, 'answer').mockImplementation(async (request) => {
      const path = new URL(request.url).pathname;
      const body = (await request.json()) as Record<string, unknown>;
      if (path === '/api/quantities/read') {
        const value = Number.parseFloat(String(body.text));
        if (Number.isFinite(value))
          return Response.json({ value, us: `${value} W`, metric: `${value} W` });
        const errors = [{ path: 'text', message: 'That is not a unit.' }];
        return Response.json(
          { title: 'No', detail: 'That is not a unit.', status: 422, errors },
          { status: 422 }
        );
      }
      asked.push({ path, body });
      return answers(path, body);
    });
  });
  afterEach(() => {
    vi.restoreAllMocks();
    session.close();
  });

  const shown = () => inJob(Form, { form: FORM }, session);
  const input = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
  const figures = () => document.querySelectorAll('table.answers [data-figure]');

  it('asks what its form says, at its own address, with what it begins at', async () => {
    shown();
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]).toEqual({
      path: '/api/quick/gas-pipe',
      body: { solve: 'bore', load_w: 1500, elevation_k: null }
    });
    await waitFor(() => expect(figures()).toHaveLength(1));
    expect(input('Air').placeholder).toBe('32 °F, assumed');
    expect(document.body.textContent).toContain('Not for hose.');
  });

  it('shows a field only with the choice it belongs to, and sends no other', async () => {
    shown();
    expect(screen.queryByLabelText('Size')).toBeNull();
    await fireEvent.change(screen.getByLabelText('Asked'), { target: { value: 'flow' } });
    await waitFor(() =>
      expect(asked.at(-1)?.body).toMatchObject({ solve: 'flow', nominal_w: 100 })
    );
    expect(screen.getByLabelText('Size')).toBeTruthy();
  });

  it('clears its answer while an entry can’t be read, and says so there', async () => {
    shown();
    await waitFor(() => expect(figures()).toHaveLength(1));
    await fireEvent.input(input('Air'), { target: { value: 'bananas' } });
    await waitFor(() => expect(figures()).toHaveLength(0));
    expect(document.querySelector('[data-quick=elevation_k]')?.textContent).toContain('not a unit');
    await fireEvent.input(input('Air'), { target: { value: '280' } });
    await waitFor(() => expect(figures()).toHaveLength(1));
    await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ elevation_k: 280 }));
  });

  it('asks nothing while something it needs is empty', async () => {
    shown();
    await waitFor(() => expect(asked).toHaveLength(1));
    await fireEvent.input(input('Planned load'), { target: { value: '' } });
    await waitFor(() => expect(figures()).toHaveLength(0));
    expect(document.querySelector('[data-quick=load_w]')?.textContent).toContain(
      'Give this first.'
    );
    expect(asked).toHaveLength(1);
  });

  it('shows what is refused at its field, a choice’s too, and no answer', async () => {
    answers = () =>
      Response.json(
        {
          title: 'No',
          detail: 'Too much.',
          status: 422,
          errors: [
            { path: 'load_w', message: 'Too much.' },
            { path: 'solve', message: 'Not that one.' }
          ]
        },
        { status: 422 }
      );
    shown();
    await waitFor(() =>
      expect(document.querySelector('[data-quick=load_w] .wrong')?.textContent).toContain(
        'Too much.'
      )
    );
    expect(document.querySelector('[data-quick=solve] .wrong')?.textContent).toContain('Not that');
    expect(figures()).toHaveLength(0);
  });

  it('sets stops before figures, words in red where they are bad, fuels by their mark', () => {
    const answer: Answered = {
      ...nothing,
      notes: [
        { key: 'a', label: 'gasoline', text: 'Much too lean.', bad: true },
        { key: 'b', label: '', text: 'Rather cold.', bad: false }
      ],
      said: [
        { key: 'nominal', label: 'Size', text: 'past 3 in', bad: true },
        { key: 'enough', label: 'For this demand', text: 'enough', bad: false }
      ],
      figures: [figure({ key: 'pipe.flow', label: 'flow' })],
      tables: [
        {
          title: '',
          columns: ['Fuel', 'steady', 'limit'],
          lines: [
            { label: 'propane', fuel: 'propane', cells: [{ figure: figure(), text: 'engine' }] },
            { label: 'gasoline', fuel: '', cells: [{ figure: null, text: 'stopped' }] }
          ]
        }
      ]
    };
    inJob(Answers, { answer }, session);
    const notes = [...document.querySelectorAll('[data-note]')];
    expect(notes.map((one) => one.textContent?.trim().split(':')[0])).toEqual(['Stop', 'Caution']);
    const rows = [...document.querySelectorAll('table.answers:not(.wide) th')];
    expect(rows.map((one) => one.textContent?.trim())).toEqual(['Size', 'For this demand', 'flow']);
    expect(document.querySelector('[data-said=nominal]')?.className).toContain('text-error');
    expect(document.querySelector('[data-said=enough]')?.className).not.toContain('text-error');
    const lines = [...document.querySelectorAll('table.wide tbody tr')];
    expect(lines).toHaveLength(2);
    expect(lines[0]?.querySelector('td')?.getAttribute('colspan')).toBe('2');
    expect(lines[1]?.textContent).toContain('stopped');
  });
});
