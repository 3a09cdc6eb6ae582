import { useRef } from 'react';
import type { Photo } from '@libretto/model';
import { IconAction } from '../ui/IconAction';
import { useTokens } from '../ui/theme';
import { useSay, type WordKey } from '../ui/words/words';
import { fonts, touch } from '../ui/tokens';
import { Loupe } from './Loupe';
import { OutlineDrawing } from './OutlineDrawing';
import type { Point, Quad } from './quad';
import { curveAt, useHandles, type Handle } from './useHandles';
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
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  const view = useStageView(box, photo);
  const { stage, scale, left, top } = view;
  const hands = useHandles({ box, scale, photo, quad, polygon, seen, onDraft, onDone, onBend });
  const { active } = hands;
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
      name: say(`edges.corner.${index}` as WordKey),
      where: quad[index]!,
    })),
    ...[0, 1, 2, 3].map((index) => ({
      handle: { kind: 'side' as const, index },
      at: middle(index),
      name: say(`edges.side.${index}` as WordKey),
      where: toPhoto(...middle(index)),
    })),
    ...(bending
      ? [0, 1, 2, 3].map((index) => ({
          handle: { kind: 'curve' as const, index },
          at: curveSpot(index),
          name: say(`edges.curve.${index}` as WordKey),
          where: toPhoto(...curveSpot(index)),
        }))
      : []),
  ];
  const points = polygon ? polygon.map(toStage) : corners;
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
        if (onPick) onPick(toPhoto(...hands.local(event)));
        else view.down(event);
      }}
      onPointerMove={(event) => (hands.dragging ? hands.pull(event) : view.move(event))}
      onPointerUp={(event) => {
        view.up(event);
        hands.letGo();
      }}
      onPointerCancel={(event) => {
        view.up(event);
        hands.letGo();
      }}
      onPointerLeave={view.up}
    >
      <img
        src={url}
        alt={say('page.asTaken')}
        draggable={false}
        style={{ position: 'absolute', left, top, width: photo.width * scale, height: photo.height * scale, maxWidth: 'none' }}
      />
      <div style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
        <OutlineDrawing
          width={stage.width}
          height={stage.height}
          photo={{ left, top, width: photo.width * scale, height: photo.height * scale }}
          points={points}
          corners={corners}
          middles={[0, 1, 2, 3].map(middle)}
          curves={bending ? [0, 1, 2, 3].map(curveSpot) : []}
          others={others.map((other) => ({ folio: other.folio, points: other.quad.map(toStage) }))}
          active={active}
        />
      </div>
      {handles.map(({ handle, at, name, where }) => (
        <div
          key={name}
          role="button"
          tabIndex={0}
          aria-label={say('edges.handle', { name, x: Math.round(where[0]), y: Math.round(where[1]) })}
          data-testid={`${handle.kind}-${handle.index}`}
          {...hands.on(handle)}
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
            aria-label={say('edges.ofPage', { folio })}
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
              font: `700 16px ${fonts.bold}`,
              cursor: 'pointer',
            }}
          >
            {folio}
          </button>
        );
      })}
      {view.zoomed ? (
        <div style={{ position: 'absolute', right: 6, bottom: 6, zIndex: 3 }} onPointerDown={(event) => event.stopPropagation()}>
          <IconAction icon="fit-to-screen-outline" label={say('edges.fit')} containerColor={t.leaf} onPress={view.fit} />
        </div>
      ) : null}
      {active && spot && stage.width > 0 ? (
        <Loupe
          url={url}
          width={photo.width}
          height={photo.height}
          at={spot}
          scale={scale}
          finger={hands.finger ?? toStage(spot)}
          stage={stage}
        />
      ) : null}
    </div>
  );
}
