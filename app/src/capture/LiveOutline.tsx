import type { Quad } from '@libretto/core';

export interface LiveOutlineProps {
  quad: Quad | null;
  width: number;
  height: number;
  grid: boolean;
  ready: boolean;
}

/** The outline on the live picture: stitching with photo corners; wine when the page is ready. */
export function LiveOutline({ quad, width, height, grid, ready }: LiveOutlineProps) {
  const corners = quad?.map(([x, y]) => [x * width, y * height] as const);
  const points = corners?.map((c) => c.join(',')).join(' ');
  return (
    <svg width={width} height={height}>
      {grid
        ? [1 / 3, 2 / 3].map((s) => (
            <g key={s} stroke="#FFFDF8" strokeOpacity={0.45} strokeWidth={1}>
              <line x1={s * width} y1={0} x2={s * width} y2={height} />
              <line x1={0} y1={s * height} x2={width} y2={s * height} />
            </g>
          ))
        : null}
      {corners && points ? (
        <>
          <polygon points={points} fill="none" stroke="#26211E" strokeWidth={4} />
          <polygon points={points} fill="none" stroke={ready ? '#F0B8C8' : '#FFFDF8'} strokeWidth={3} strokeDasharray="9 7" />
          {corners.map((at, i) => {
            const towards = (p: readonly [number, number]) => {
              const l = Math.hypot(p[0] - at[0], p[1] - at[1]) || 1;
              return [at[0] + ((p[0] - at[0]) / l) * 26, at[1] + ((p[1] - at[1]) / l) * 26].join(',');
            };
            return (
              <polygon
                key={i}
                points={`${at.join(',')} ${towards(corners[(i + 1) % 4]!)} ${towards(corners[(i + 3) % 4]!)}`}
                fill="#FFFDF8"
                stroke="#6E1F3A"
                strokeWidth={2}
                strokeLinejoin="round"
              />
            );
          })}
        </>
      ) : null}
    </svg>
  );
}
