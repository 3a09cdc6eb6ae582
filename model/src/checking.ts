import { checks, type CheckId } from './lists';
import type { Check } from './records';

const percent = (share: number) => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

/** A resolution that small print reads well at (common practice). */
export const enoughDpi = 150;

const inWords: Partial<Record<CheckId, (value: number) => string>> = {
  blurred: (mm) => `Blurred: edges ${mm.toFixed(1)} mm wide`,
  'cut-off': (share) => `Cut off: ${percent(share)} missing`,
  glare: (share) => `Glare over ${percent(share)}`,
  dark: () => 'Taken in little light',
  grainy: () => 'Grainy: needs more light',
  'low-resolution': (dpi) => `Only ${Math.round(dpi)} dpi; ${enoughDpi} would do`,
  blank: () => 'Looks blank',
  sideways: (degrees) => (degrees === 180 ? 'Maybe upside down' : 'Maybe sideways'),
};

/** A check in words, from what was measured. */
export function checkOf({ id, severity, value }: { id: CheckId; severity: Check['severity']; value?: number }): Check {
  const words = value === undefined ? undefined : inWords[id]?.(value);
  return { id, severity, words: words ?? labelOf(id), ...(value !== undefined && { value: Math.round(value * 1e4) / 1e4 }) };
}

const labelOf = (id: CheckId) => checks.find((c) => c.id === id)!.label;

/** From this factor on one of two photos of a sheet is the sharper one. */
const clearlySharper = 1.08;

/** Which of two pages of one sheet is seen better: the one that has the check, the other one, or neither by much. */
export function betterOf({ value = 1 }: Check): 'this' | 'other' | null {
  return value > clearlySharper ? 'this' : value < 1 / clearlySharper ? 'other' : null;
}

/** The one action that settles a check. */
export const remedyOf = (check: Check) => checks.find((c) => c.id === check.id)!;

const weight = { retake: 0, look: 1, note: 2 } as const;

/** The worst first. */
export function bySeverity(list: readonly Check[]): Check[] {
  return [...list].sort((a, b) => weight[a.severity] - weight[b.severity]);
}
