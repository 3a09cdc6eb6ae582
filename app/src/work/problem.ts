import type { Problem } from '@libretto/model';

/** What cannot be done, by its code; the words are the catalogue's. */
export class WorkProblem extends Error {
  constructor(
    readonly code: string,
    readonly values?: Record<string, string | number>,
  ) {
    super(code);
  }
}

/** Why work on a photo failed, as it is stored. */
export function problemOf(error: unknown): Problem {
  if (error instanceof WorkProblem) return { code: error.code };
  const { name, message } = error as Error;
  if (name === 'InvalidStateError' || /decod/i.test(message)) return { code: 'damaged' };
  if (/alloc|memory/i.test(message)) return { code: 'too-large' };
  return message ? { code: 'said', said: message } : { code: 'not-read' };
}
