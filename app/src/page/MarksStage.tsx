import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Mark, Page } from '@libretto/model';
import { newId } from '../store/ids';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';
import { boundsOf, changePicture, drawMark, isOfPicture, type MarkView } from '../work/markDrawing';
import { usePageImage } from '../work/usePageImage';
import { belong, signatureMarks } from '../work/signature';
import type { Places } from '../work/usePlaces';
import { resized, shifted } from './markChanges';
import type { MarkTool } from './markTools';
import { useStageView } from './useStageView';

export interface MarksStageProps {
  page: Page;
  places: Places | null;
  tool: MarkTool;
  selected: string | null;
  onSelect: (id: string | null) => void;
  onMark: (...marks: Mark[]) => void;
  /** A note is wanted at a place of the photo, and beside it a place on the same line. */
  onNote: (at: [number, number], along: [number, number]) => void;
  onChange: (...marks: Mark[]) => void;
  onDelete: (id: string) => void;
}

/** A finger hits what is nearer than this, px. */
const reachPx = 14;
/** Of what is taken hold of, the corners that pull it larger: how far from it they lie, px. */
const cornerPx = 4;
/** The page's picture has no more dots than this, however near it is looked at. */
const mostDots = 4096;
/** What is shorter was a tap, px. */
const leastDragPx = 6;
type Point = [number, number];

/** The page without its marks, and these drawn over it by what will also draw them into it: they can be put on, taken hold of and moved. */
export function MarksStage({ page, places, tool, selected, onSelect, onMark, onNote, onChange, onDelete }: MarksStageProps) {
  const t = useTokens();
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const photo = useRef<HTMLImageElement>(null);
  const [, setLoaded] = useState('');
  const { marks = [], ...bare } = page.recipe!;
  const { url, image } = usePageImage({ ...page, recipe: bare }, 'screen');
  const look = useStageView(box, image ?? nothing);
  const { left, top } = look;
  const [width, height] = image && look.stage.width ? [image.width * look.scale, image.height * look.scale] : [0, 0];
  const [drawing, setDrawing] = useState<Mark | null>(null);
  const [moving, setMoving] = useState<{ id: string; from: Point; to: Point; anchor?: Point } | null>(null);
  const fingers = useRef(new Set<number>());
  const panning = useRef(false);
  /** Two fingers were down: lifting the last of them means nothing. */
  const pinched = useRef(false);
  const [font, setFont] = useState(false);
  const view: MarkView | null =
    places && width ? { width, height, pxPerMm: width / places.widthMm, toPage: places.map.toPage } : null;

  useEffect(() => {
    // The letters of a note are known once they have been fetched.
    void document.fonts?.load('16px AtkinsonHyperlegible_700Bold').then(() => setFont(true), () => {}); // prettier-ignore
  }, []);

  /** A mark and those that belong to it. */
  const held = (id: string | null): Mark[] => {
    const one = marks.find((m) => m.id === id);
    return one ? marks.filter((m) => belong(m, one)) : [];
  };
  const share = ([x, y]: Point): Point => [x / width, y / height];
  /** What is being moved or pulled, as it is now. */
  const inHand = (): Mark[] => {
    if (!moving || !places) return [];
    const { id, from, to, anchor } = moving;
    if (anchor)
      return resized(held(id), places.map, { anchor: share(anchor), corner: share(from), now: share(to), ratio: width / height });
    const by = share([to[0] - from[0], to[1] - from[1]]);
    return held(id).map((mark) => shifted(mark, places.map, by));
  };
  const now = inHand();
  const shown = [...marks.map((mark) => now.find((m) => m.id === mark.id) ?? mark), ...(drawing ? [drawing] : [])];

  useLayoutEffect(() => {
    const paper = canvas.current;
    if (!paper || !view) return;
    const dots = Math.min(window.devicePixelRatio || 1, mostDots / Math.max(width, height));
    paper.width = Math.round(width * dots);
    paper.height = Math.round(height * dots);
    const c = paper.getContext('2d', { willReadFrequently: true })!;
    // On the page itself, as in the page that is sent: highlighters multiply it, covers take it away.
    if (photo.current?.complete && photo.current.naturalWidth) c.drawImage(photo.current, 0, 0, paper.width, paper.height);
    const changes = shown.filter(isOfPicture);
    if (changes.length) {
      const { data } = c.getImageData(0, 0, paper.width, paper.height);
      const raster = { width: paper.width, height: paper.height, channels: 4 as const, data };
      changePicture(raster, changes, { ...view, width: paper.width, height: paper.height, pxPerMm: view.pxPerMm * dots });
      c.putImageData(new ImageData(data, paper.width, paper.height), 0, 0);
    }
    c.scale(dots, dots);
    for (const mark of shown) if (!isOfPicture(mark)) drawMark(c, mark, view);
    // A part that is being drawn round looks as before.
    const taken = shown.filter((mark) => held(selected).some((m) => m.id === mark.id) || (mark === drawing && mark.kind === 'part')); // prettier-ignore
    if (taken.length) {
      const b = around(taken.map((mark) => boundsOf(c, mark, view)));
      c.globalCompositeOperation = 'source-over';
      c.setLineDash([6, 4]);
      c.lineWidth = 2;
      c.strokeStyle = t.wine;
      c.strokeRect(b.x - cornerPx, b.y - cornerPx, b.width + 2 * cornerPx, b.height + 2 * cornerPx);
      c.fillStyle = t.wine;
      for (const [x, y] of cornersOf(b)) c.fillRect(x - 5, y - 5, 10, 10);
    }
    // Drawn whenever it is shown: what decides it is all that is on it.
  });

  const placeOf = (event: PointerEvent): Point => {
    const r = box.current!.getBoundingClientRect();
    return [event.clientX - r.left - left, event.clientY - r.top - top];
  };
  const onPhoto = ([x, y]: Point): Point =>
    places!.map.toPhoto([Math.max(0, Math.min(1, x / width)), Math.max(0, Math.min(1, y / height))]);
  const markAt = ([x, y]: Point): Mark | undefined => {
    const c = canvas.current!.getContext('2d')!;
    return marks.findLast((mark) => {
      const b = boundsOf(c, mark, view!);
      return x > b.x - reachPx && x < b.x + b.width + reachPx && y > b.y - reachPx && y < b.y + b.height + reachPx;
    });
  };
  /** The corner of what is taken hold of that is under the finger, and the one that stays when it is pulled. */
  const cornerAt = ([x, y]: Point) => {
    const c = canvas.current!.getContext('2d')!;
    const its = held(selected);
    if (!its.length) return undefined;
    const corners = cornersOf(around(its.map((mark) => boundsOf(c, mark, view!))));
    const i = corners.findIndex(([cx, cy]) => Math.hypot(cx - x, cy - y) < reachPx);
    return i < 0 ? undefined : { corner: corners[i]!, anchor: corners[(i + 2) % 4]! };
  };
  const start = useRef<Point>([0, 0]);
  const down = (event: PointerEvent<HTMLDivElement>) => {
    look.down(event);
    fingers.current.add(event.pointerId);
    // Two fingers move the page: what the first had begun is nothing.
    if (fingers.current.size === 1) pinched.current = false;
    if (fingers.current.size > 1) {
      pinched.current = true;
      letGo();
    }
    if (!view || !event.isPrimary || event.button > 0) return;
    const at = placeOf(event);
    start.current = at;
    panning.current = false;
    if (tool.kind === 'select') {
      const pulled = selected ? cornerAt(at) : undefined;
      const hit = pulled ? undefined : markAt(at);
      if (pulled) setMoving({ id: selected!, from: pulled.corner, to: pulled.corner, anchor: pulled.anchor });
      else onSelect(hit?.id ?? null);
      if (hit) setMoving({ id: hit.id, from: at, to: at });
      panning.current = !pulled && !hit;
    } else if (tool.kind !== 'note' && tool.kind !== 'signature') {
      onSelect(null);
      const p = onPhoto(at);
      const id = newId();
      if (tool.kind === 'ink' || tool.kind === 'highlight')
        setDrawing({ kind: tool.kind, id, points: [pointOf(p, event)], widthMm: tool.widthMm, colour: tool.colour });
      else if (tool.kind === 'cover')
        setDrawing({ kind: 'cover', id, from: p, to: p, fill: tool.fill, ...(tool.outside && { outside: true }) }); // prettier-ignore
      else if (tool.kind === 'part') setDrawing({ kind: 'part', id, source: [p, p], from: p, to: p });
      else setDrawing({ kind: tool.kind, id, from: p, to: p, widthMm: tool.widthMm, colour: tool.colour });
    }
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    if (fingers.current.size > 1 || panning.current) return look.move(event);
    // Where it is now, should a second finger come.
    if (fingers.current.has(event.pointerId)) look.down(event);
    if (!view || !event.isPrimary) return;
    const at = placeOf(event);
    if (moving) return setMoving({ ...moving, to: at });
    if (!drawing) return;
    if ('points' in drawing) {
      // All places that the pen passed since the last event, where the browser tells them.
      const passed = event.nativeEvent.getCoalescedEvents?.() ?? [];
      const r = box.current!.getBoundingClientRect();
      const more = (passed.length ? passed : [event.nativeEvent]).map((e) =>
        pointOf(onPhoto([e.clientX - r.left - left, e.clientY - r.top - top]), e),
      );
      setDrawing({ ...drawing, points: [...drawing.points, ...more].slice(0, 4000) });
    } else if (drawing.kind === 'part') {
      const to = onPhoto(at);
      setDrawing({ ...drawing, source: [drawing.from, to], to });
    } else if ('to' in drawing) setDrawing({ ...drawing, to: onPhoto(at) });
  };
  const letGo = () => {
    setDrawing(null);
    setMoving(null);
    panning.current = false;
  };
  const up = (event: PointerEvent<HTMLDivElement>) => {
    const known = fingers.current.has(event.pointerId);
    look.up(event);
    fingers.current.delete(event.pointerId);
    if (!known || pinched.current || panning.current) return letGo();
    if (!view || !event.isPrimary) return;
    const at = placeOf(event);
    const far = Math.hypot(at[0] - start.current[0], at[1] - start.current[1]) >= leastDragPx;
    if (tool.kind === 'signature' && !far) {
      const mm = ([x, y]: Point): Point => onPhoto([x * view.pxPerMm, y * view.pxPerMm]);
      // All of it on the paper: what is pushed against the edge would be another's.
      const half = [tool.widthMm / 2, (tool.widthMm * tool.signature.height) / 2] as const;
      const [across, tall] = [width / view.pxPerMm, height / view.pxPerMm];
      const within = (v: number, least: number, most: number) => Math.max(Math.min(v, most - least), least);
      const spot = [within(at[0] / view.pxPerMm, half[0], across), within(at[1] / view.pxPerMm, half[1], tall)] as const;
      onMark(...signatureMarks(tool.signature, spot, tool, mm, newId));
    }
    if (tool.kind === 'note' && !far) onNote(onPhoto(at), onPhoto([Math.min(width, at[0] + 40), at[1]]));
    if (moving) {
      if (now.length && far) onChange(...now);
      setMoving(null);
    }
    if (drawing) {
      // A dot is a stroke; a line of no length is nothing.
      if ('points' in drawing || far) onMark(drawing);
      setDrawing(null);
    }
  };
  const nudge = (dx: number, dy: number) => (event: KeyboardEvent) => {
    const by = share([dx * (event.shiftKey ? 10 : 1), dy * (event.shiftKey ? 10 : 1)]);
    if (selected && view) onChange(...held(selected).map((m) => shifted(m, places!.map, by)));
  };
  /** Larger or smaller, its top left corner staying. */
  const grow = (event: KeyboardEvent) => {
    const factor = event.key === '-' ? 1 / 1.1 : 1.1;
    const c = canvas.current?.getContext('2d');
    if (!selected || !view || !c) return;
    const b = around(held(selected).map((mark) => boundsOf(c, mark, view)));
    const [anchor, corner] = [share([b.x, b.y]), share([b.x + b.width, b.y + b.height])];
    const to = [0, 1].map((k) => anchor[k]! + (corner[k]! - anchor[k]!) * factor) as Point;
    onChange(...resized(held(selected), places!.map, { anchor, corner, now: to, ratio: width / height }));
  };
  useKeys(
    Object.fromEntries(
      ([['arrowleft', -1, 0], ['arrowright', 1, 0], ['arrowup', 0, -1], ['arrowdown', 0, 1]] as const).flatMap(([key, dx, dy]) => [[key, nudge(dx, dy)], [`shift+${key}`, nudge(dx, dy)]]),
    ),
    { enabled: selected !== null },
  ); // prettier-ignore
  useKeys(
    {
      '+': grow,
      '=': grow,
      '-': grow,
      delete: () => selected && onDelete(selected),
      backspace: () => selected && onDelete(selected),
    },
    { enabled: selected !== null },
  );

  return (
    <div
      ref={box}
      data-testid="marks-stage"
      role="application"
      aria-label={say('marks.stage')}
      data-font={font}
      aria-busy={!view}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={(event) => {
        look.up(event);
        fingers.current.delete(event.pointerId);
        letGo();
      }}
      onContextMenu={(event) => event.preventDefault()}
      style={{
        position: 'relative',
        flex: 1,
        minHeight: 0,
        overflow: 'hidden',
        background: t.well,
        touchAction: 'none',
        userSelect: 'none',
        cursor: tool.kind === 'select' ? 'default' : tool.kind === 'note' ? 'text' : 'crosshair',
      }}
    >
      {url && width ? (
        <>
          <img
            ref={photo}
            src={url}
            onLoad={() => setLoaded(url)}
            alt={say('finish.alt')}
            draggable={false}
            style={{ position: 'absolute', left, top, width, height, boxShadow: `0 0 0 1px ${t.hairline}` }}
          />
          <canvas ref={canvas} style={{ position: 'absolute', left, top, width, height, pointerEvents: 'none' }} />
        </>
      ) : null}
      {!view ? (
        <Spinner label={say('marks.preparing')} style={{ position: 'absolute', inset: 0, justifyContent: 'center' } as never} />
      ) : null}
    </div>
  );
}

const nothing = { width: 1, height: 1 };

/** Where the corners of what is taken hold of can be pulled, clockwise from the top left one. */
function cornersOf({ x, y, width, height }: { x: number; y: number; width: number; height: number }): Point[] {
  const [x0, y0, x1, y1] = [x - cornerPx, y - cornerPx, x + width + cornerPx, y + height + cornerPx];
  return [[x0, y0], [x1, y0], [x1, y1], [x0, y1]]; // prettier-ignore
}

function around(boxes: readonly { x: number; y: number; width: number; height: number }[]) {
  const [x, y] = [Math.min(...boxes.map((b) => b.x)), Math.min(...boxes.map((b) => b.y))];
  return {
    x,
    y,
    width: Math.max(...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(...boxes.map((b) => b.y + b.height)) - y,
  };
}

/** Pens tell how hard they press; fingers and mice do not, whatever they say. */
const pointOf = ([x, y]: Point, event: { pointerType: string; pressure: number }): Point | [number, number, number] =>
  event.pointerType === 'pen' && event.pressure > 0 ? [x, y, Math.round(event.pressure * 1000) / 1000] : [x, y];
