import { useTokens } from '../ui/theme';
import type { Point } from './quad';

const size = 124;

export interface LoupeProps {
  url: string;
  width: number;
  height: number;
  /** Spot of the photo under the finger. */
  at: Point;
  /** Screen px a photo px in the stage. */
  scale: number;
  /** Where the finger is on the stage, so that the loupe stays away from it. */
  finger: Point;
  stage: { width: number; height: number };
}

/** The spot under the finger, four times as large as on the stage, on the other side of it. */
export function Loupe({ url, width, height, at, scale, finger, stage }: LoupeProps) {
  const t = useTokens();
  const zoom = Math.min(2, Math.max(scale * 4, 0.4));
  const left = finger[0] > stage.width / 2 ? 10 : stage.width - size - 16;
  const top = finger[1] > stage.height / 2 ? 10 : stage.height - size - 16;
  return (
    <div
      data-testid="loupe"
      aria-hidden
      style={{
        position: 'absolute',
        left,
        top,
        width: size,
        height: size,
        overflow: 'hidden',
        background: t.well,
        border: `1px solid ${t.wine}`,
        outline: `3px solid ${t.leaf}`,
        outlineOffset: -4,
        pointerEvents: 'none',
        zIndex: 3,
      }}
    >
      <img
        src={url}
        alt=""
        style={{
          position: 'absolute',
          width: width * zoom,
          height: height * zoom,
          left: size / 2 - (at[0] + 0.5) * zoom,
          top: size / 2 - (at[1] + 0.5) * zoom,
          maxWidth: 'none',
        }}
      />
      <div style={{ position: 'absolute', inset: 0 }}>
        <svg width={size} height={size}>
          <line x1={size / 2} y1={0} x2={size / 2} y2={size} stroke={t.wine} strokeWidth={1} />
          <line x1={0} y1={size / 2} x2={size} y2={size / 2} stroke={t.wine} strokeWidth={1} />
        </svg>
      </div>
    </div>
  );
}
