export const median = (v: readonly number[]) => [...v].sort((a, b) => a - b)[v.length >> 1] ?? NaN;
