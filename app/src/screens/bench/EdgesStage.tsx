import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { IconButton } from 'react-native-paper';
import Svg, { Circle, G, Path, Polygon, Rect } from 'react-native-svg';
import type { Photo } from '@libretto/model';
import { useTokens } from '../../theme/theme';
import { touch } from '../../theme/tokens';
import { Loupe } from './Loupe';
import { PhotoCorner } from './PhotoCorner';
import {
  asPolygon,
  bent,
  cornerNames,
  isPage,
  sideNames,
  snapped,
  within,
  withCorner,
  withSide,
  type Point,
  type Quad,
} from './quad';
import { useStageView } from './useStageView';

export interface EdgesStageProps {
  photo: Photo & { width: number; height: number };
  url: string;
  quad: Quad;
  /** The outline where its sides are curved. */
  polygon: readonly Point[] | null;
  /** While dragging, for the preview. */
  onDraft: (quad: Quad) => void;
  /** Let go: this is the outline now. */
  onDone: (quad: Quad) => void;
  /** Whether sides can be bent. */
  bending: boolean;
  /** A side bent by its curve handle. */
  onBend: (polygon: Point[], done: boolean) => void;
  /** Outlines that the finder saw in this photo: dragging snaps to them. */
  seen: readonly Quad[];
  /** The photo's other pages with their numbers. */
  others: readonly { folio: number; quad: Quad; onOpen: () => void }[];
  /** While a spot is asked for: the next tap says it. */
  onPick: ((at: Point) => void) | null;
}

type Handle = { kind: 'corner' | 'side' | 'curve'; index: number };

/** How near, in screen px, a dragged corner is taken onto one that the finder saw. */
const snapPx = 9;
/** Where along its side a curve handle sits: beside the side handle. */
const curveAt = 0.75;

/** The photo with its outline as stitching, photo corners and side handles that can be dragged or nudged with the arrow keys. */
export function EdgesStage({
  photo,
  url,
  quad,
  polygon,
  onDraft,
  onDone,
  bending,
  onBend,
  seen,
  others,
  onPick,
}: EdgesStageProps) {
  const t = useTokens();
  const box = useRef<HTMLDivElement>(null);
  const view = useStageView(box, photo);
  const { stage, scale, left, top } = view;
  const [drag, setDrag] = useState<{ handle: Handle; grip: Point; from: Quad; curve: readonly Point[]; finger: Point } | null>(
    null,
  );
  const [held, setHeld] = useState<Handle | null>(null);
  const pending = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef(quad);
  useEffect(() => {
    latest.current = quad;
  }, [quad]);

  const toStage = ([x, y]: Point): Point => [left + (x + 0.5) * scale, top + (y + 0.5) * scale];
  const toPhoto = (x: number, y: number): Point => [(x - left) / scale - 0.5, (y - top) / scale - 0.5];
  const corners = quad.map(toStage);
  const middle = (i: number): Point => {
    const bent = polygon?.[Math.floor(((i + 0.5) * polygon.length) / 4)];
    return bent ? toStage(bent) : straightMiddle(i);
  };
  const straightMiddle = (i: number): Point => [
    (corners[i]![0] + corners[(i + 1) % 4]![0]) / 2,
    (corners[i]![1] + corners[(i + 1) % 4]![1]) / 2,
  ];

  const curveSpot = (i: number): Point => {
    const on = polygon?.[Math.floor(((i + curveAt) * polygon.length) / 4)];
    if (on) return toStage(on);
    const [a, b] = [corners[i]!, corners[(i + 1) % 4]!];
    return [a[0] + (b[0] - a[0]) * curveAt, a[1] + (b[1] - a[1]) * curveAt];
  };

  const place = (from: Quad, handle: Handle, by: Point, snap = false): Quad => {
    if (handle.kind === 'curve') return from;
    const shape = handle.kind === 'corner' ? 'corner' : 'side';
    const moved =
      handle.kind === 'corner'
        ? withCorner(from, handle.index, [from[handle.index]![0] + by[0], from[handle.index]![1] + by[1]])
        : withSide(from, handle.index, by);
    const next = snap ? snapped(moved, { kind: shape, index: handle.index }, seen, snapPx / scale) : moved;
    const kept = next.map((p) => within(p, photo.width, photo.height)) as Quad;
    return isPage(kept) ? kept : latest.current;
  };
  const local = (event: PointerEvent): Point => {
    const r = box.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  const grab = (handle: Handle) => (event: PointerEvent<HTMLDivElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const finger = local(event);
    setDrag({ handle, grip: finger, from: latest.current, curve: polygon ?? asPolygon(latest.current), finger });
  };
  const pull = (event: PointerEvent) => {
    if (!drag) return;
    const finger = local(event);
    setDrag({ ...drag, finger });
    const by: Point = [(finger[0] - drag.grip[0]) / scale, (finger[1] - drag.grip[1]) / scale];
    if (drag.handle.kind === 'curve') {
      const share = 4 * curveAt * (1 - curveAt);
      onBend(bent(drag.curve, drag.handle.index, [by[0] / share, by[1] / share]), false);
      return;
    }
    // With Alt held, or from the keyboard, nothing snaps.
    const next = place(drag.from, drag.handle, by, !event.altKey);
    latest.current = next;
    onDraft(next);
  };
  const letGo = () => {
    if (!drag) return;
    setDrag(null);
    if (drag.handle.kind === 'curve') {
      if (polygon && polygon !== drag.curve) onBend([...polygon], true);
      return;
    }
    if (latest.current !== drag.from) onDone(latest.current);
  };
  const nudge = (handle: Handle) => (event: KeyboardEvent) => {
    const far = event.shiftKey ? 10 : 1;
    const by = ({ ArrowLeft: [-far, 0], ArrowRight: [far, 0], ArrowUp: [0, -far], ArrowDown: [0, far] } as Record<string, Point>)[
      event.key
    ];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    if (handle.kind === 'curve') {
      const curve = polygon ?? asPolygon(latest.current);
      onBend(bent(curve, handle.index, by), true);
      return;
    }
    const next = place(latest.current, handle, by);
    latest.current = next;
    onDraft(next);
    // A run of nudges is one step to undo.
    clearTimeout(pending.current);
    pending.current = setTimeout(() => onDone(latest.current), 700);
  };
  const leave = () => {
    setHeld(null);
    if (!pending.current) return;
    clearTimeout(pending.current);
    pending.current = undefined;
    onDone(latest.current);
  };

  const active = drag?.handle ?? held;
  const spot =
    active &&
    (active.kind === 'corner'
      ? quad[active.index]!
      : active.kind === 'curve'
        ? toPhoto(...curveSpot(active.index))
        : (([a, b]) => [(a![0] + b![0]) / 2, (a![1] + b![1]) / 2] as Point)([quad[active.index], quad[(active.index + 1) % 4]]));
  const handles: { handle: Handle; at: Point; name: string; where: Point }[] = [
    ...corners.map((at, index) => ({
      handle: { kind: 'corner' as const, index },
      at,
      name: cornerNames[index]!,
      where: quad[index]!,
    })),
    ...[0, 1, 2, 3].map((index) => ({
      handle: { kind: 'side' as const, index },
      at: middle(index),
      name: sideNames[index]!,
      where: toPhoto(...middle(index)),
    })),
    ...(bending
      ? [0, 1, 2, 3].map((index) => ({
          handle: { kind: 'curve' as const, index },
          at: curveSpot(index),
          name: `Curve of the ${sideNames[index]!.toLowerCase()}`,
          where: toPhoto(...curveSpot(index)),
        }))
      : []),
  ];
  const points = polygon ? polygon.map(toStage) : corners;
  const outline = points.map((c) => c.join(',')).join(' ');
  return (
    <div
      ref={box}
      data-testid="edges-stage"
      style={{
        position: 'relative',
        flex: 1,
        minHeight: 0,
        overflow: 'hidden',
        background: t.well,
        touchAction: 'none',
        userSelect: 'none',
        cursor: onPick ? 'crosshair' : view.zoomed ? 'grab' : 'default',
      }}
      onPointerDown={(event) => {
        if (onPick) onPick(toPhoto(...local(event)));
        else view.down(event);
      }}
      onPointerMove={(event) => (drag ? pull(event) : view.move(event))}
      onPointerUp={(event) => {
        view.up(event);
        letGo();
      }}
      onPointerCancel={(event) => {
        view.up(event);
        letGo();
      }}
      onPointerLeave={view.up}
    >
      <img
        src={url}
        alt="The photo as taken"
        draggable={false}
        style={{ position: 'absolute', left, top, width: photo.width * scale, height: photo.height * scale, maxWidth: 'none' }}
      />
      <div style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
        <Svg width={stage.width} height={stage.height}>
          <Path
            fillRule="evenodd"
            fill="rgba(20,16,14,0.38)"
            d={`M${left} ${top}h${photo.width * scale}v${photo.height * scale}h${-photo.width * scale}Z M${points.map((c) => c.join(' ')).join(' L')} Z`}
          />
          <Polygon points={outline} fill="none" stroke="#FFFDF8" strokeWidth={4} />
          <Polygon points={outline} fill="none" stroke="#26211E" strokeWidth={3} strokeDasharray="9 7" />
          {others.map(({ folio, quad: other }) => (
            <Polygon
              key={folio}
              points={other.map((p) => toStage(p).join(',')).join(' ')}
              fill="none"
              stroke="#FFFDF8"
              strokeWidth={2}
              strokeDasharray="3 6"
            />
          ))}
          {bending
            ? [0, 1, 2, 3].map((i) => {
                const [x, y] = curveSpot(i);
                const on = active?.kind === 'curve' && active.index === i;
                return (
                  <Circle
                    key={`curve-${i}`}
                    cx={x}
                    cy={y}
                    r={7}
                    fill="#FFFDF8"
                    stroke={on ? t.brass : '#6E1F3A'}
                    strokeWidth={2}
                  />
                );
              })
            : null}
          {corners.map((c, i) => (
            <PhotoCorner
              key={i}
              at={c}
              next={corners[(i + 1) % 4]!}
              before={corners[(i + 3) % 4]!}
              held={active?.kind === 'corner' && active.index === i}
              colour={t.wine}
            />
          ))}
          {[0, 1, 2, 3].map((i) => {
            const [x, y] = middle(i);
            const angle =
              (Math.atan2(corners[(i + 1) % 4]![1] - corners[i]![1], corners[(i + 1) % 4]![0] - corners[i]![0]) * 180) / Math.PI;
            return (
              <G key={i} transform={`translate(${x} ${y}) rotate(${angle})`}>
                <Rect
                  x={-17}
                  y={-5}
                  width={34}
                  height={10}
                  rx={2}
                  fill="#FFFDF8"
                  stroke={active?.kind === 'side' && active.index === i ? t.brass : '#6E1F3A'}
                  strokeWidth={2}
                />
              </G>
            );
          })}
        </Svg>
      </div>
      {handles.map(({ handle, at, name, where }) => (
        <div
          key={name}
          role="button"
          tabIndex={0}
          aria-label={`${name}, ${Math.round(where[0])}, ${Math.round(where[1])}. Arrow keys move it, with Shift by ten.`}
          data-testid={`${handle.kind}-${handle.index}`}
          onPointerDown={grab(handle)}
          onKeyDown={nudge(handle)}
          onFocus={() => setHeld(handle)}
          onBlur={leave}
          style={{
            position: 'absolute',
            left: at[0] - touch / 2,
            top: at[1] - touch / 2,
            width: touch,
            height: touch,
            borderRadius: touch / 2,
            cursor: handle.kind === 'corner' ? 'move' : 'grab',
            touchAction: 'none',
            zIndex: handle.kind === 'corner' ? 2 : handle.kind === 'side' ? 1 : 0,
          }}
        />
      ))}
      {others.map(({ folio, quad: other, onOpen }) => {
        const [x, y] = toStage([other.reduce((sum, p) => sum + p[0], 0) / 4, other.reduce((sum, p) => sum + p[1], 0) / 4]);
        return (
          <button
            key={folio}
            type="button"
            aria-label={`Edges of page ${folio}`}
            onPointerDown={(event) => event.stopPropagation()}
            onClick={onOpen}
            style={{
              position: 'absolute',
              left: x - touch / 2,
              top: y - touch / 2,
              width: touch,
              height: touch,
              border: 0,
              borderRadius: touch / 2,
              background: 'rgba(20,16,14,0.72)',
              color: '#FFFDF8',
              font: '700 16px AtkinsonHyperlegible_700Bold',
              cursor: 'pointer',
            }}
          >
            {folio}
          </button>
        );
      })}
      {view.zoomed ? (
        <div style={{ position: 'absolute', right: 6, bottom: 6, zIndex: 3 }} onPointerDown={(event) => event.stopPropagation()}>
          <IconButton
            icon="fit-to-screen-outline"
            mode="contained"
            accessibilityLabel="Show the whole photo"
            onPress={view.fit}
            style={{ margin: 0 }}
          />
        </div>
      ) : null}
      {active && spot && stage.width > 0 ? (
        <Loupe
          url={url}
          width={photo.width}
          height={photo.height}
          at={spot}
          scale={scale}
          finger={drag?.finger ?? toStage(spot)}
          stage={stage}
        />
      ) : null}
    </div>
  );
}
