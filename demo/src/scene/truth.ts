import type { Point } from '@libretto/core';
import { bendTable } from './bend';
import type { pinhole } from './pinhole';
import type { LaidSheet, TruePage } from './scene';

/** Where a sheet's pages are seen: its own, or the two halves of a spread. */
export function truth(sheet: LaidSheet, camera: ReturnType<typeof pinhole>): TruePage[] {
  const { height, reach } = bendTable(sheet);
  const c = Math.cos((sheet.angle * Math.PI) / 180);
  const s = Math.sin((sheet.angle * Math.PI) / 180);
  const see = (u: number, v: number) => camera.see(sheet.xMm + c * u - s * v, sheet.yMm + s * u + c * v, height(u));
  const h = sheet.heightMm / 2;
  const page = (from: number, to: number, id: string, widthMm: number): TruePage => {
    const quad = [see(from, -h), see(to, -h), see(to, h), see(from, h)];
    const side = (f: (t: number) => Point) => Array.from({ length: 20 }, (_, i) => f(i / 20));
    const polygon = [
      ...side((t) => see(from + (to - from) * t, -h)),
      ...side((t) => see(to, -h + 2 * h * t)),
      ...side((t) => see(to + (from - to) * t, h)),
      ...side((t) => see(from, h - 2 * h * t)),
    ];
    const angle = (Math.atan2(quad[1]![1] - quad[0]![1], quad[1]![0] - quad[0]![0]) * 180) / Math.PI;
    const round = (p: Point): Point => [Math.round(p[0] * 100) / 100, Math.round(p[1] * 100) / 100];
    return {
      id,
      quad: quad.map(round),
      polygon: polygon.map(round),
      size_mm: [widthMm, sheet.heightMm],
      rotation: (Math.round(angle / 90) * 90 + 360) % 360,
    };
  };
  if (!sheet.spread) return [page(-reach, reach, sheet.id, sheet.widthMm)];
  return [page(-reach, 0, `${sheet.id}-left`, sheet.widthMm / 2), page(0, reach, `${sheet.id}-right`, sheet.widthMm / 2)];
}
