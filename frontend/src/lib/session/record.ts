import { prefs } from './prefs.svelte';

/** Now, in UTC, as records carry it. */
export const stamp = () => new Date().toISOString();

/** A key for something noted: short, and no other's. */
export const freshKey = (prefix: string) => `${prefix}${Date.now().toString(36)}`;

/** Who notes something, and when. */
export const signed = () => ({ by: prefs.who, on: stamp() });
