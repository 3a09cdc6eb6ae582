import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { Text } from 'react-native-paper';
import { pageDpi } from '@libretto/core/rectify/pageDpi';
import type { Adjust, Page, Touch } from '@libretto/model';
import { useMeasured } from '../ui/useMeasured';
import type { Stroke } from '../work/page.worker';
import { usePageImage, usePageOnScreen } from '../work/usePageImage';
import { useTokens } from '../ui/theme';
import { problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { detailSize } from './FinishDrawer';
import { useBrush } from './useBrush';

export interface FinishStageProps {
  page: Page;
  /** What a slider is being moved to; undefined while none is. */
  draft: { adjust: Adjust | undefined } | null;
  /** Centre of the compared detail, shares of the page. */
  at: readonly [number, number] | null;
  onPick: (at: [number, number]) => void;
  /** What a stroke does; null: a tap picks the detail. */
  painting: Touch['kind'] | null;
  onPaint: (stroke: Stroke & Pick<Touch, 'kind'>) => void;
  onPaintingDone: () => void;
}

/** Half the width of a stroke, share of the page's longer side: a fingertip's. */
const strokeRadius = 0.016;

/** The finished page; a tap chooses the detail to compare, holding shows the page as photographed. */
export function FinishStage({ page, draft, at, onPick, painting, onPaint, onPaintingDone }: FinishStageProps) {
  const t = useTokens();
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  const stage = useMeasured(box);
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const finished = usePageOnScreen(page);
  const original = usePageImage(holding ? { ...page, recipe: { ...page.recipe!, filter: 'original' } } : undefined, 'screen');
  // While a slider moves, a smaller picture answers at once.
  const { adjust: _set, ...recipe } = page.recipe!;
  const moving = usePageImage(
    draft ? { ...page, recipe: { ...recipe, ...(draft.adjust && { adjust: draft.adjust }) } } : undefined,
    'draft',
  );
  const shown = holding && original.url ? original : draft && moving.url ? moving : finished;
  const image = finished.image;
  const scale = image ? Math.min((stage.width - 24) / image.width, (stage.height - 24) / image.height) : 0;
  const width = image ? image.width * scale : 0;
  const height = image ? image.height * scale : 0;
  const left = (stage.width - width) / 2;
  const top = (stage.height - height) / 2;
  // The compared detail is cut from the page as it is printed.
  const pxPerInch = image ? pageDpi(image.photoDpi, page.recipe!.outline.source !== 'whole') : 300;
  const perInch = image ? (width / image.widthMm) * 25.4 : 0;
  const mark = { w: (detailSize[0] / pxPerInch) * perInch, h: (detailSize[1] / pxPerInch) * perInch };
  const placeOf = (event: PointerEvent<HTMLDivElement>): [number, number] => {
    const r = box.current!.getBoundingClientRect();
    return [(event.clientX - r.left - left) / Math.max(1, width), (event.clientY - r.top - top) / Math.max(1, height)];
  };
  const brush = useBrush({
    on: painting !== null,
    width,
    height,
    onLeave: onPaintingDone,
    onStroke: (points) => onPaint({ kind: painting!, points, radius: strokeRadius }),
  });
  const { stroke } = brush;
  // Who began painting with a key goes on with keys.
  useEffect(() => {
    if (painting && document.activeElement?.matches(':focus-visible')) box.current?.focus();
  }, [painting]);
  const down = (event: PointerEvent<HTMLDivElement>) => {
    if (painting) {
      event.currentTarget.setPointerCapture(event.pointerId);
      brush.begin(placeOf(event));
      return;
    }
    timer.current = setTimeout(() => setHolding(true), 250);
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    if (stroke) brush.goTo(placeOf(event));
  };
  const up = (event: PointerEvent<HTMLDivElement>) => {
    if (stroke) return brush.end();
    clearTimeout(timer.current);
    if (holding) return setHolding(false);
    const [x, y] = placeOf(event);
    if (x > 0 && x < 1 && y > 0 && y < 1) onPick([x, y]);
  };
  return (
    <div
      ref={box}
      data-testid="finish-stage"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={brush.drop}
      {...(painting && { tabIndex: 0, role: 'application', 'aria-label': brush.label, onKeyDown: brush.onKeyDown })}
      onPointerLeave={() => {
        clearTimeout(timer.current);
        setHolding(false);
      }}
      onContextMenu={(event) => event.preventDefault()}
      style={{
        position: 'relative',
        flex: 1,
        minHeight: 0,
        overflow: 'hidden',
        background: t.well,
        touchAction: painting ? 'none' : 'manipulation',
        cursor: painting ? 'crosshair' : 'default',
        userSelect: 'none',
      }}
    >
      {shown.url ? (
        <img
          src={shown.url}
          alt={say(holding ? 'finish.altHolding' : 'finish.alt')}
          draggable={false}
          style={{
            position: 'absolute',
            left,
            top,
            width,
            height,
            boxShadow: `0 0 0 1px ${t.hairline}`,
            opacity: finished.current || holding || draft ? 1 : 0.7,
          }}
        />
      ) : null}
      {stroke || brush.shown ? (
        <div aria-hidden style={{ position: 'absolute', left, top, pointerEvents: 'none' }}>
          <svg width={width} height={height} style={{ overflow: 'visible' }}>
            {stroke ? (
              <polyline
                points={[...stroke, stroke.at(-1)!].map(([x, y]) => `${x * width},${y * height}`).join(' ')}
                fill="none"
                stroke={painting === 'fill' ? t.wine : t.brass}
                strokeOpacity={0.45}
                strokeWidth={2 * strokeRadius * Math.max(width, height)}
                strokeLinecap="round"
                strokeLinejoin="round"
              />
            ) : null}
            {brush.shown ? (
              <circle
                cx={brush.at[0] * width}
                cy={brush.at[1] * height}
                r={strokeRadius * Math.max(width, height)}
                fill="none"
                stroke={t.wine}
                strokeWidth={2}
              />
            ) : null}
          </svg>
        </div>
      ) : null}
      {at && image && !painting ? (
        <div
          aria-hidden
          style={{
            position: 'absolute',
            left: left + at[0] * width - mark.w / 2,
            top: top + at[1] * height - mark.h / 2,
            width: mark.w,
            height: mark.h,
            border: `2px solid ${t.wine}`,
            pointerEvents: 'none',
          }}
        />
      ) : null}
      <div style={{ position: 'absolute', right: 10, bottom: 6, pointerEvents: 'none', background: t.well, padding: '1px 6px' }}>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say(
            painting === 'fill' ? 'finish.paintFill' : painting ? 'finish.paintKeep' : holding ? 'finish.holding' : 'finish.hold',
          )}
        </Text>
      </div>
      {finished.problem ? (
        <div style={{ padding: 20 }}>
          <Text style={{ color: t.rust }}>{problemAlone(say, finished.problem)}</Text>
        </div>
      ) : null}
    </div>
  );
}
