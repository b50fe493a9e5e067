import { shopMoney } from '$lib/ui/money.svelte';
import { grouped } from '$lib/ui/numbers';
import { createQuery, type QueryClient } from '@tanstack/svelte-query';
import { api, ask, type Reference, type System } from '$lib/api/client';

export const referenceQuery = {
  queryKey: ['reference'],
  queryFn: async () => {
    const found = await ask(api.GET('/api/reference'));
    shopMoney.currency = found.currency;
    return found;
  },
  staleTime: Infinity
};

/** Kinds, fields, cylinder sizes and people: fetched once. */
export function useReference() {
  return createQuery(() => referenceQuery);
}

export function forgetReference(client: QueryClient): Promise<void> {
  return client.invalidateQueries({ queryKey: ['reference'] });
}

/** The kind and label of a job's field, its dictionary keys standing for themselves. */
export function fieldOf(reference: Reference | undefined, path: string) {
  const parts = path.split('.');
  for (const [pattern, field] of Object.entries(reference?.fields ?? {})) {
    const wanted = pattern.split('.');
    if (wanted.length === parts.length && wanted.every((key, i) => key === '*' || key === parts[i]))
      return field;
  }
  return undefined;
}

/** A value [SI] as a bare number in the unit its kind is shown in. */
export function scaled(reference: Reference, kind: string, system: System, value: number): number {
  const unit = reference.kinds[kind]?.[system];
  return unit ? value * unit.factor + unit.offset : value;
}

/** What is assumed where nothing is given: words as they are, a value [SI] in the kind's unit. */
export function assumption(
  reference: Reference | undefined,
  kind: string | undefined,
  system: System,
  assumed: string | number
): string {
  const unit = kind === undefined ? undefined : reference?.kinds[kind]?.[system];
  if (typeof assumed === 'string' || !reference || !kind || !unit) return String(assumed);
  const value = scaled(reference, kind, system, assumed);
  return `${grouped(Number(value.toPrecision(3)))} ${unit.text}, assumed`;
}

/** Back from a shown number to SI. */
export function unscaled(
  reference: Reference,
  kind: string,
  system: System,
  shown: number
): number {
  const unit = reference.kinds[kind]?.[system];
  return unit ? (shown - unit.offset) / unit.factor : shown;
}
