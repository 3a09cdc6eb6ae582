import { named, writeTexts } from './texts';
import type { Step } from './step';
import { liveTabs } from './tabs';

/** Steps that were begun and are not stored yet, `libretto-pending:<tab>:<step>`: written within the call, so that what the browser is closed on is not lost. */
const prefix = 'libretto-pending:';
const entryOf = (step: Pick<Step, 'tab' | 'id'>) => `${prefix}${step.tab}:${step.id}`;

export function noteStep(step: Step): void {
  try {
    localStorage.setItem(entryOf(step), JSON.stringify(step));
  } catch {
    // No room or no such storage: then the write alone has to do.
  }
}

export function forgetStep(step: Pick<Step, 'tab' | 'id'>): void {
  try {
    localStorage.removeItem(entryOf(step));
  } catch {
    // Nothing was noted, then.
  }
}

/** Steps of tabs that are no longer there, the oldest first. What is torn is set aside and stands in nobody's way. */
export async function unfinishedSteps(own: string): Promise<Step[]> {
  let keys: string[];
  try {
    keys = Object.keys(localStorage).filter((k) => k.startsWith(prefix));
  } catch {
    return [];
  }
  if (!keys.length) return [];
  const live = await liveTabs();
  const found: Step[] = [];
  for (const key of keys) {
    const text = localStorage.getItem(key) ?? '';
    try {
      const step = JSON.parse(text) as Step;
      if (
        !Array.isArray(step.ops) ||
        !Array.isArray(step.documentIds) ||
        typeof step.id !== 'string' ||
        typeof step.tab !== 'string'
      )
        throw new Error('not a step');
      if (step.tab !== own && !live?.has(step.tab)) found.push(step);
    } catch {
      await writeTexts({ [named.aside(key)]: text }).catch(() => {});
      localStorage.removeItem(key);
    }
  }
  return found.sort((a, b) => a.at.localeCompare(b.at));
}
