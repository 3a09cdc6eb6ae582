/** A random number between two bounds. */
export type Roll = (from: number, to: number) => number;

export function rolls(seed: number): Roll {
  let state = seed >>> 0;
  return (from, to) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return from + ((to - from) * state) / 4294967296;
  };
}
