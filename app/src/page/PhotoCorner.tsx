import type { Point } from './quad';

/** A paper triangle, as in an album, over a corner of the page. */
export function PhotoCorner({
  at,
  next,
  before,
  held,
  colour,
}: {
  at: Point;
  next: Point;
  before: Point;
  held: boolean;
  colour: string;
}) {
  const towards = (p: Point): Point => {
    const l = Math.hypot(p[0] - at[0], p[1] - at[1]) || 1;
    return [(p[0] - at[0]) / l, (p[1] - at[1]) / l];
  };
  const a = towards(next);
  const b = towards(before);
  const size = 30;
  const out: Point = [at[0] - (a[0] + b[0]) * 4, at[1] - (a[1] + b[1]) * 4];
  const points = [out, [out[0] + a[0] * size, out[1] + a[1] * size], [out[0] + b[0] * size, out[1] + b[1] * size]]
    .map((p) => p.join(','))
    .join(' ');
  return <polygon points={points} fill={held ? '#F3D9E1' : '#FFFDF8'} stroke={colour} strokeWidth={2} strokeLinejoin="round" />;
}
