import type { Raster } from '../raster/raster';
import type { Turn } from '../rectify/turn';
import { glyphViews, turnedView, viewCells } from './glyphs';
import { hidden, inputWeights, outputWeights } from './weights';

export interface TextOrientation {
  /** Quarter turns clockwise, in degrees, that make the page upright. */
  turn: Turn;
  /** 0..1: how sure; 0 where there is nothing to tell by. */
  confidence: number;
}

const inputs = viewCells * viewCells;
/** No single mark counts for more than this (natural log): a few odd ones must not decide. */
const mostPerMark = 3;
/** From so many marks and this confidence on the rest of the page is not looked at. */
const enoughMarks = 40;
/** More marks of the same kind would only say the same more loudly. */
const mostMarks = 160;
const beyondDoubt = 0.999;
/** Marks beside each other are not independent witnesses. */
const independence = 0.2;

/**
 * Which way up a flattened page is, from its print: every letter-sized mark is looked at with its surroundings by a small network (400 inputs, one hidden layer,
 * softmax over the four ways), and their log probabilities are added up. Trained by bench/src/trainTextOrientation.ts.
 *
 * @param parts of the page, flattened; no more of them are asked for once the answer is beyond doubt.
 */
export function textOrientation(parts: Iterable<Raster>): TextOrientation {
  const sums = [0, 0, 0, 0];
  let marks = 0;
  for (const part of parts) {
    for (const cells of glyphViews(part)) {
      marks++;
      // Looked at in all four turns: what the network thinks of a view must not depend on how it came in.
      let turned = cells;
      const logs = [0, 0, 0, 0];
      for (let q = 0; q < 4; q++) {
        const said = turnOf(turned);
        // Seen after q quarters, "needs k" means that it needed k + q before.
        for (let k = 0; k < 4; k++) logs[(k + q) % 4] += Math.log(Math.max(1e-6, said[k])) / 4;
        turned = turnedView(turned);
      }
      const best = Math.max(...logs);
      for (let k = 0; k < 4; k++) sums[k] += Math.max(-mostPerMark, logs[k] - best);
      if (marks < enoughMarks) continue;
      const soFar = answer(sums);
      if (marks >= mostMarks || soFar.confidence > beyondDoubt) return soFar;
    }
  }
  return answer(sums);
}

function answer(sums: readonly number[]): TextOrientation {
  const top = Math.max(...sums);
  const odds = sums.map((s) => Math.exp(independence * (s - top)));
  const p = 1 / odds.reduce((s, v) => s + v, 0);
  return { turn: (sums.indexOf(top) * 90) as Turn, confidence: Math.max(0, (p - 0.25) / 0.75) };
}

/** Probabilities that a view needs 0, 1, 2 or 3 quarter turns clockwise. */
export function turnOf(cells: Float32Array): number[] {
  const scores = [0, 0, 0, 0];
  for (let k = 0; k < 4; k++) scores[k] = outputWeights[hidden * 4 + k];
  for (let h = 0; h < hidden; h++) {
    // Four sums at once: one would wait for itself.
    let a = inputWeights[inputs * hidden + h];
    let b = 0;
    let c = 0;
    let d = 0;
    for (let i = 0, w = h * inputs; i < inputs; i += 4, w += 4) {
      a += inputWeights[w] * cells[i];
      b += inputWeights[w + 1] * cells[i + 1];
      c += inputWeights[w + 2] * cells[i + 2];
      d += inputWeights[w + 3] * cells[i + 3];
    }
    const sum = a + b + (c + d);
    if (sum <= 0) continue;
    for (let k = 0; k < 4; k++) scores[k] += outputWeights[h * 4 + k] * sum;
  }
  const top = Math.max(...scores);
  const e = scores.map((s) => Math.exp(s - top));
  const all = e.reduce((s, v) => s + v, 0);
  return e.map((v) => v / all);
}
