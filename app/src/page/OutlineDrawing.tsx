import { useTokens } from '../ui/theme';
import { PhotoCorner } from './PhotoCorner';
import type { Point } from './quad';
import type { Handle } from './useHandles';

export interface OutlineDrawingProps {
  width: number;
  height: number;
  /** Where the photo lies. */
  photo: { left: number; top: number; width: number; height: number };
  /** The outline and its corners, middles of its sides and, while they can be bent, the spots of its curves. */
  points: readonly Point[];
  corners: readonly Point[];
  middles: readonly Point[];
  curves: readonly Point[];
  others: readonly { folio: number; points: readonly Point[] }[];
  active: Handle | null;
}

/** The outline as stitching with its photo corners and handles, the photo round it darkened; all in px of the stage. */
export function OutlineDrawing({ width, height, photo, points, corners, middles, curves, others, active }: OutlineDrawingProps) {
  const t = useTokens();
  const outline = listed(points);
  const isActive = (kind: Handle['kind'], index: number) => active?.kind === kind && active.index === index;
  return (
    <svg width={width} height={height}>
      <path
        fillRule="evenodd"
        fill="rgba(20,16,14,0.38)"
        d={`M${photo.left} ${photo.top}h${photo.width}v${photo.height}h${-photo.width}Z M${points.map((c) => c.join(' ')).join(' L')} Z`}
      />
      <polygon points={outline} fill="none" stroke="#FFFDF8" strokeWidth={4} />
      <polygon points={outline} fill="none" stroke="#26211E" strokeWidth={3} strokeDasharray="9 7" />
      {others.map((other) => (
        <polygon
          key={other.folio}
          points={listed(other.points)}
          fill="none"
          stroke="#FFFDF8"
          strokeWidth={2}
          strokeDasharray="3 6"
        />
      ))}
      {curves.map(([x, y], i) => (
        <circle
          key={`curve-${i}`}
          cx={x}
          cy={y}
          r={7}
          fill="#FFFDF8"
          stroke={isActive('curve', i) ? t.brass : '#6E1F3A'}
          strokeWidth={2}
        />
      ))}
      {corners.map((c, i) => (
        <PhotoCorner
          key={i}
          at={c}
          next={corners[(i + 1) % 4]!}
          before={corners[(i + 3) % 4]!}
          held={isActive('corner', i)}
          colour={t.wine}
        />
      ))}
      {middles.map(([x, y], i) => {
        const [a, b] = [corners[i]!, corners[(i + 1) % 4]!];
        const angle = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
        return (
          <g key={i} transform={`translate(${x} ${y}) rotate(${angle})`}>
            <rect
              x={-17}
              y={-5}
              width={34}
              height={10}
              rx={2}
              fill="#FFFDF8"
              stroke={isActive('side', i) ? t.brass : '#6E1F3A'}
              strokeWidth={2}
            />
          </g>
        );
      })}
    </svg>
  );
}

const listed = (points: readonly Point[]) => points.map((p) => p.join(',')).join(' ');
