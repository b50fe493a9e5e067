import { fireEvent, render, screen, waitFor } from '@testing-library/svelte';
import { QueryClient } from '@tanstack/svelte-query';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import PartForm from '../../src/routes/catalog/PartForm.svelte';
import InQuery from './InQuery.svelte';

const columns = [
  { name: 'number', label: 'number', options: [] },
  { name: 'class', label: 'class', options: ['hose', 'demand'] },
  { name: 'stock', label: 'stock', options: [] },
  { name: 'inlet', label: 'inlet', options: [] },
  { name: 'bore_mm', label: 'bore, mm', options: [] },
  { name: 'brass', label: 'brass', options: ['', 'yes', 'no'] }
];
let sent: unknown[] = [];
let answer: () => Response;

beforeEach(() => {
  sent = [];
  answer = () => Response.json({ key: 'x-1', kind: 'changed', fields: ['stock'] });
  vi.stubGlobal('fetch', async (asked: Request) => {
    const { pathname } = new URL(asked.url, 'http://shop');
    if (pathname.endsWith('/columns')) return Response.json({ columns });
    if (pathname.endsWith('/ends'))
      return Response.json([{ key: 'npt:1/2:m', text: '1/2 in NPT male' }]);
    sent.push(await asked.json());
    return answer();
  });
});

const shown = (given: Record<string, unknown>) =>
  render(InQuery, { shown: PartForm, with: given, client: new QueryClient() });

describe('a part that is typed in', () => {
  const cells = { number: 'X-1', class: 'hose', stock: '2', bore_mm: '', brass: '' };

  it('shows what it holds, the rest on demand, and saves all of it', async () => {
    const done = vi.fn();
    shown({ was: 'x-1', cells, done });
    const stock = await screen.findByLabelText<HTMLInputElement>('stock');
    expect(stock.value).toBe('2');
    expect(screen.queryByLabelText('bore, mm')).toBeNull();
    const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
    expect(save.disabled).toBe(true);
    await fireEvent.click(screen.getByRole('button', { name: 'Everything a part has' }));
    await fireEvent.input(screen.getByLabelText('bore, mm'), { target: { value: '9' } });
    await fireEvent.change(screen.getByLabelText('brass'), { target: { value: 'yes' } });
    await fireEvent.click(save);
    await waitFor(() => expect(done).toHaveBeenCalledWith('x-1'));
    expect(sent).toEqual([{ was: 'x-1', cells: { ...cells, bore_mm: '9', brass: 'yes' } }]);
  });

  it('says what is wrong at its cell, though it was not on show, and keeps what was typed', async () => {
    answer = () =>
      Response.json(
        {
          title: 'No',
          detail: 'No.',
          status: 422,
          errors: [{ path: 'bore_mm', message: 'is not a number' }]
        },
        { status: 422 }
      );
    const done = vi.fn();
    shown({ cells, done });
    await fireEvent.input(await screen.findByLabelText('stock'), { target: { value: '7' } });
    await fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('is not a number')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('stock').value).toBe('7');
    expect(done).not.toHaveBeenCalled();
  });

  it('is left as it was when nobody saves it, and knows the ends there are', async () => {
    const done = vi.fn();
    const { container } = shown({ was: 'x-1', cells: { ...cells, inlet: 'npt:1/2:m' }, done });
    await screen.findByLabelText('inlet');
    await waitFor(() =>
      expect(container.querySelector('datalist option')?.textContent).toBe('1/2 in NPT male')
    );
    await fireEvent.click(screen.getByRole('button', { name: 'Not after all' }));
    expect(done).toHaveBeenCalledWith('');
    expect(sent).toEqual([]);
  });
});
