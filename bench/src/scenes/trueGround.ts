import type { Raster } from '@libretto/core';
import { shrinkToEdge } from '@libretto/core/raster/resize';
import { lumaPlane } from '@libretto/core/raster/colour';
import { dilate } from '@libretto/core/enhance/morphology';
import { groundOf } from '@libretto/core/enhance/paperColour';

export const bare = 1;
export const printed = 2;
/** On an edge, or too near to the paper to be either. */
export const either = 0;

/** So little apart (log levels) it is paper; so much, it is not. */
const [alike, apart] = [0.03, 0.06];
/** A colour of the paper is found so often in steps of so many levels, and one that is less colourful is preferred from here on. */
const step = 4;
/** Between the lines and letters of close print paper shows, within so much of the page's longer side; a closer copy is looked at for it. */
const [closeEdge, between] = [1200, 0.006];
const leastShare = 0.03;
/** It belongs to the brighter half of the page, but for so much, or covers so much of it. */
const darker = 0.1;
const mostOfIt = 0.3;

/** What of a clean page is bare paper, on every second place of its copy of 400 px; nothing where no even colour covers enough of it to be paper. */
export function trueGround(clean: Raster, like: { width: number; height: number }): Uint8Array {
  const small = shrinkToEdge(clean, 400);
  const { red, blue, level } = groundOf(small);
  const [w, h] = [small.width, small.height];
  const logLevel = Float32Array.from(level.data, (v) => Math.log(v + 8));
  const cells = new Map<number, number[]>();
  for (let i = 0; i < logLevel.length; i++) {
    const l = level.data[i]!;
    const key =
      (Math.round(l / step) * 64 + Math.round((red.data[i]! + 1) / 0.03)) * 256 + Math.round((blue.data[i]! + 1) / 0.03);
    const at = cells.get(key);
    if (at) at.push(i);
    else cells.set(key, [i]);
  }
  const usual = [...logLevel].sort((a, b) => a - b)[logLevel.length >> 1]!;
  let paper: number | null = null;
  const colour = (i: number) => Math.hypot(red.data[i]!, blue.data[i]!);
  for (const own of [...cells.values()].sort((a, b) => b.length - a.length)) {
    if (own.length < leastShare * logLevel.length) break;
    const i = own[own.length >> 1]!;
    if (logLevel[i]! < usual - darker && own.length < mostOfIt * logLevel.length) continue;
    if (paper === null || (logLevel[i]! > logLevel[paper]! - 0.03 && colour(i) < colour(paper) - 0.025)) paper = i;
  }
  const labels = new Uint8Array(like.width * like.height);
  const close = lumaPlane(shrinkToEdge(clean, closeEdge));
  const bright = dilate(close, Math.round(between * Math.max(close.width, close.height)));
  const brightAt = (x: number, y: number) =>
    Math.log(bright.data[Math.min(close.height - 1, Math.floor(((y + 0.5) * close.height) / h)) * close.width + Math.min(close.width - 1, Math.floor(((x + 0.5) * close.width) / w))]! + 8); // prettier-ignore
  const paperLuma = paper === null ? 0 : brightAt(paper % w, Math.floor(paper / w));
  /** How far off the paper a place is at most and, in close print, at least. */
  const off = (x: number, y: number): [most: number, least: number] => {
    if (paper === null) return [1, 1];
    const [cx, cy] = [Math.max(0, Math.min(w - 1, x)), Math.max(0, Math.min(h - 1, y))];
    const i = cy * w + cx;
    const coloured = Math.hypot(red.data[i]! - red.data[paper]!, blue.data[i]! - blue.data[paper]!);
    const darker = Math.abs(logLevel[i]! - logLevel[paper]!);
    const between = Math.abs(brightAt(cx, cy) - paperLuma);
    return [Math.max(coloured, darker), Math.max(coloured, Math.min(darker, between))];
  };
  for (let y = 0, n = 0; y < like.height; y++)
    for (let x = 0; x < like.width; x++, n++) {
      const [cx, cy] = [Math.round(((x + 0.5) * w) / like.width), Math.round(((y + 0.5) * h) / like.height)];
      const around = [-3, 0, 3].flatMap((dy) => [-3, 0, 3].map((dx) => off(cx + dx, cy + dy)));
      labels[n] = around.every(([most]) => most < alike) ? bare : around.every(([, least]) => least > apart) ? printed : either;
    }
  return labels;
}
