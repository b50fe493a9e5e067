import { FUELS } from '$lib/api/published';

export type FuelKey = (typeof FUELS)[number]['key'];

export const GAS_FUELS = FUELS.filter((one) => one.source !== 'tank');

/** What the core says of a fuel. */
export function fuelOf(key: string): (typeof FUELS)[number] | undefined {
  return FUELS.find((one) => one.key === key);
}

/** A fuel's own color; the text's where it has none. */
export function inkOf(key: string): string {
  return `var(--${key.replaceAll('_', '-')}, currentColor)`;
}
