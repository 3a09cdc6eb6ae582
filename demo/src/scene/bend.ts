import type { LaidSheet } from './scene';

/** Height of a bent sheet at `u` mm from its middle, and the arc length along it. */
export function bendTable(sheet: LaidSheet) {
  const half = sheet.widthMm / 2;
  const { bend } = sheet;
  const height = (u: number): number => {
    if (bend.kind === 'flat') return 0;
    if (bend.kind === 'curl') return bend.heightMm * (u / half) ** 2;
    const s = Math.abs(u) / bend.reachMm;
    return bend.heightMm * s * Math.exp(1 - s);
  };
  // From position above the desk to distance along the paper, symmetrical about the middle.
  const step = 0.5;
  const n = Math.ceil(half / step) + 2;
  const arc = new Float32Array(n);
  for (let i = 1; i < n; i++) arc[i] = arc[i - 1]! + Math.hypot(step, height(i * step) - height((i - 1) * step));
  const along = (u: number): number => {
    const p = Math.abs(u) / step;
    const i = Math.min(n - 2, Math.floor(p));
    return Math.sign(u) * (arc[i]! + (arc[i + 1]! - arc[i]!) * (p - i));
  };
  // The paper keeps its length, so a bent one reaches less far.
  let reach = half;
  if (bend.kind !== 'flat') for (let k = 0; k < 30; k++) reach -= Math.abs(along(reach)) - half;
  return { height, along, reach };
}
