import { api, type System } from '$lib/api/client';

function kept(key: string, fallback: string): string {
  try {
    return localStorage.getItem(`ember.${key}`) ?? fallback;
  } catch {
    return fallback;
  }
}

function keep(key: string, value: string): void {
  try {
    localStorage.setItem(`ember.${key}`, value);
  } catch {
    // A browser that keeps nothing still works; it forgets on the next visit.
  }
}

/** What this person prefers on this device: units, theme, and who they are. */
class Preferences {
  system = $state<System>(kept('units', 'us') === 'metric' ? 'metric' : 'us');
  theme = $state(kept('theme', 'paper'));
  who = $state(kept('who', ''));

  toggleUnits(): void {
    this.system = this.system === 'us' ? 'metric' : 'us';
    keep('units', this.system);
    if (this.who) void api.PUT('/api/people', { body: { name: this.who, units: this.system } });
  }

  toggleTheme(): void {
    this.theme = this.theme === 'paper' ? 'lamp' : 'paper';
    keep('theme', this.theme);
  }

  be(name: string, units?: string): void {
    this.who = name;
    keep('who', name);
    if (units === 'us' || units === 'metric') {
      this.system = units;
      keep('units', units);
    }
  }
}

export const prefs = new Preferences();

/** Initials of a name, at most three. */
export function initials(name: string): string {
  return name
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, 3)
    .map((part) => part[0]?.toUpperCase() ?? '')
    .join('');
}
