/** The length of a vector, without the guard against overflow for which `Math.hypot` takes three times as long. */
export const lengthOf = (x: number, y: number): number => Math.sqrt(x * x + y * y);
