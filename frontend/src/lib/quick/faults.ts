import { Refusal } from '$lib/api/client';

/** Messages of a refused answer by the name they belong to. */
export function faults(error: unknown): Record<string, string> {
  if (!(error instanceof Refusal)) return {};
  return Object.fromEntries(error.errors.map((one) => [one.path, one.message]));
}
