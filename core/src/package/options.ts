/** What an option may be, in words, and whether a value is that. */
export interface Rule {
  expected: string;
  holds: (value: unknown) => boolean;
}

const isNumber = (value: unknown): value is number => typeof value === 'number' && !Number.isNaN(value);
export const between = (least: number, most = Infinity): Rule => ({
  expected: most === Infinity ? `a number of at least ${least}` : `a number from ${least} to ${most}`,
  holds: (v) => isNumber(v) && v >= least && v <= most,
});
export const oneOf = (...values: readonly unknown[]): Rule => ({
  expected: `one of ${values.join(', ')}`,
  holds: (v) => values.includes(v),
});
export const flag: Rule = { expected: 'true or false', holds: (v) => typeof v === 'boolean' };
const isPoint = (v: unknown) => Array.isArray(v) && v.length === 2 && v.every((n) => isNumber(n) && Number.isFinite(n));
export const point: Rule = { expected: 'a point [x, y]', holds: isPoint };
export const corners: Rule = {
  expected: 'four corners [x, y] in photo pixels, or null',
  holds: (v) => v === null || (Array.isArray(v) && v.length === 4 && v.every(isPoint)),
};
/** At least so many points. */
export const points = (least: number): Rule => ({
  expected: `at least ${least} points [x, y]`,
  holds: (v) => Array.isArray(v) && v.length >= least && v.every(isPoint),
});
export const list: Rule = { expected: 'a list', holds: Array.isArray };
/** An object whose fields keep to rules of their own. */
export const fields = (rules: Rules): Rule => ({
  expected: `an object of ${Object.keys(rules).join(', ')}`,
  holds: (v) => typeof v === 'object' && v !== null && Object.entries(v).every(([name, one]) => one === undefined || rules[name]?.holds(one)), // prettier-ignore
});
export const anything: Rule = { expected: 'anything', holds: () => true };

export type Rules = Readonly<Record<string, Rule>>;

/**
 * Looks at what somebody hands over.
 *
 * @param what is asked, for the message: `findPages`.
 * @throws TypeError that names the option, what it may be and what was received.
 */
export function checkOptions(what: string, given: object | undefined, rules: Rules, needed: readonly string[] = []): void {
  if (given === undefined && !needed.length) return;
  if (typeof given !== 'object' || given === null)
    throw new TypeError(`${what}: options are an object, received ${String(given)}`);
  for (const name of needed)
    if ((given as Record<string, unknown>)[name] === undefined) throw new TypeError(`${what}: option "${name}" is missing`);
  for (const [name, value] of Object.entries(given)) {
    const rule = rules[name];
    if (!rule) throw new TypeError(`${what}: there is no option "${name}"; there are ${Object.keys(rules).join(', ')}`);
    if (value !== undefined && !rule.holds(value))
      throw new TypeError(`${what}: option "${name}" is ${rule.expected}, received ${said(value)}`);
  }
}

const said = (value: unknown): string => {
  const text = typeof value === 'string' ? `"${value}"` : (JSON.stringify(value) ?? String(value));
  return text.length > 80 ? `${text.slice(0, 77)}…` : text;
};
