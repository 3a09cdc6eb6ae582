/** A rectangle in px of the picture that was read. */
export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What a recogniser says of one word. */
export interface Recognised {
  text: string;
  box: Rect;
  /** As the engine says it, 0..100; it is not a probability. */
  confidence: number;
}

/** A word as it is kept. */
export interface Word {
  text: string;
  box: Rect;
  /** Probability that it is right to the letter, 0..1; see `confidence.ts`. */
  confidence: number;
}

/** Words that stand beside each other, from the left. */
export interface Line {
  words: Word[];
  box: Rect;
}

export function around(boxes: readonly Rect[]): Rect {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  const right = Math.max(...boxes.map((b) => b.x + b.width));
  const bottom = Math.max(...boxes.map((b) => b.y + b.height));
  return { x, y, width: right - x, height: bottom - y };
}
