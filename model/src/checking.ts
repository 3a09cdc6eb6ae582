import { checks, type CheckId } from './lists';
import type { Check } from './records';

/** A resolution that small print reads well at (common practice). */
export const enoughDpi = 150;

/** A check from what was measured. */
export function checkOf({ id, severity, value }: { id: CheckId; severity: Check['severity']; value?: number }): Check {
  return { id, severity, ...(value !== undefined && { value: Math.round(value * 1e4) / 1e4 }) };
}

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
