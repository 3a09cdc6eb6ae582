import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Mark, Page } from '@libretto/model';
import { newId } from '../store/ids';
import { Spinner } from '../ui/Spinner';
import { useMeasured } from '../ui/useMeasured';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';
import { boundsOf, coverOver, drawMark, type MarkView } from '../work/markDrawing';
import { usePageImage } from '../work/usePageImage';
import { belong, signatureMarks } from '../work/signature';
import type { Places } from '../work/usePlaces';
import type { MarkTool } from './markTools';

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

const margin = 12;
/** A finger hits what is nearer than this, px. */
const reachPx = 14;
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
  const stage = useMeasured(box);
  const { marks = [], ...bare } = page.recipe!;
  const { url, image } = usePageImage({ ...page, recipe: bare }, 'screen');
  const scale = image ? Math.min((stage.width - 2 * margin) / image.width, (stage.height - 2 * margin) / image.height) : 0;
  const [width, height] = image && scale > 0 ? [image.width * scale, image.height * scale] : [0, 0];
  const [left, top] = [(stage.width - width) / 2, (stage.height - height) / 2];
  const [drawing, setDrawing] = useState<Mark | null>(null);
  const [moving, setMoving] = useState<{ id: string; from: Point; by: Point } | null>(null);
  const [font, setFont] = useState(false);
  const view: MarkView | null =
    places && width ? { width, height, pxPerMm: width / places.widthMm, toPage: places.map.toPage } : null;

  useEffect(() => {
    // The letters of a note are known once they have been fetched.
    void document.fonts?.load('16px AtkinsonHyperlegible_700Bold').then(() => setFont(true), () => {}); // prettier-ignore
  }, []);

  const shifted = (mark: Mark, [dx, dy]: Point): Mark => {
    const to = (point: readonly number[]) => {
      const [u, v] = places!.map.toPage([point[0]!, point[1]!]);
      const [x, y] = places!.map.toPhoto([u + dx / width, v + dy / height]);
      return [x, y, ...point.slice(2)] as never;
    };
    if ('points' in mark) return { ...mark, points: mark.points.map(to) };
    if ('text' in mark) return { ...mark, at: to(mark.at), along: to(mark.along) };
    return { ...mark, from: to(mark.from), to: to(mark.to) };
  };
  /** A mark and those that belong to it. */
  const held = (id: string | null): Mark[] => {
    const one = marks.find((m) => m.id === id);
    return one ? marks.filter((m) => belong(m, one)) : [];
  };
  const shown = [
    ...marks.map((mark) => (moving && held(moving.id).includes(mark) ? shifted(mark, moving.by) : mark)),
    ...(drawing ? [drawing] : []),
  ];

  useLayoutEffect(() => {
    const paper = canvas.current;
    if (!paper || !view) return;
    const dots = window.devicePixelRatio || 1;
    paper.width = Math.round(width * dots);
    paper.height = Math.round(height * dots);
    const c = paper.getContext('2d', { willReadFrequently: true })!;
    // On the page itself, as in the page that is sent: highlighters multiply it, covers take it away.
    if (photo.current?.complete && photo.current.naturalWidth) c.drawImage(photo.current, 0, 0, paper.width, paper.height);
    const covers = shown.filter((mark) => mark.kind === 'cover');
    if (covers.length) {
      const { data } = c.getImageData(0, 0, paper.width, paper.height);
      const raster = { width: paper.width, height: paper.height, channels: 4 as const, data };
      for (const cover of covers) coverOver(raster, cover, { ...view, width: paper.width, height: paper.height, pxPerMm: view.pxPerMm * dots }); // prettier-ignore
      c.putImageData(new ImageData(data, paper.width, paper.height), 0, 0);
    }
    c.scale(dots, dots);
    for (const mark of shown) if (mark.kind !== 'cover') drawMark(c, mark, view);
    const taken = shown.filter((mark) => held(selected).some((m) => m.id === mark.id));
    if (taken.length) {
      const b = around(taken.map((mark) => boundsOf(c, mark, view)));
      c.globalCompositeOperation = 'source-over';
      c.setLineDash([6, 4]);
      c.lineWidth = 2;
      c.strokeStyle = t.wine;
      c.strokeRect(b.x - 4, b.y - 4, b.width + 8, b.height + 8);
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
  const start = useRef<Point>([0, 0]);
  const down = (event: PointerEvent<HTMLDivElement>) => {
    if (!view || !event.isPrimary || event.button > 0) return;
    const at = placeOf(event);
    start.current = at;
    if (tool.kind === 'select') {
      const hit = markAt(at);
      onSelect(hit?.id ?? null);
      if (hit) setMoving({ id: hit.id, from: at, by: [0, 0] });
    } else if (tool.kind !== 'note' && tool.kind !== 'signature') {
      onSelect(null);
      const p = onPhoto(at);
      const id = newId();
      if (tool.kind === 'ink' || tool.kind === 'highlight')
        setDrawing({ kind: tool.kind, id, points: [pointOf(p, event)], widthMm: tool.widthMm, colour: tool.colour });
      else if (tool.kind === 'cover') setDrawing({ kind: 'cover', id, from: p, to: p, fill: tool.fill });
      else setDrawing({ kind: tool.kind, id, from: p, to: p, widthMm: tool.widthMm, colour: tool.colour });
    }
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    if (!view || !event.isPrimary) return;
    const at = placeOf(event);
    if (moving) return setMoving({ ...moving, by: [at[0] - moving.from[0], at[1] - moving.from[1]] });
    if (!drawing) return;
    if ('points' in drawing) {
      // All places that the pen passed since the last event, where the browser tells them.
      const passed = event.nativeEvent.getCoalescedEvents?.() ?? [];
      const r = box.current!.getBoundingClientRect();
      const more = (passed.length ? passed : [event.nativeEvent]).map((e) =>
        pointOf(onPhoto([e.clientX - r.left - left, e.clientY - r.top - top]), e),
      );
      setDrawing({ ...drawing, points: [...drawing.points, ...more].slice(0, 4000) });
    } else if ('to' in drawing) setDrawing({ ...drawing, to: onPhoto(at) });
  };
  const up = (event: PointerEvent<HTMLDivElement>) => {
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
      const its = held(moving.id);
      if (its.length && far) onChange(...its.map((m) => shifted(m, moving.by)));
      setMoving(null);
    }
    if (drawing) {
      // A dot is a stroke; a line of no length is nothing.
      if ('points' in drawing || far) onMark(drawing);
      setDrawing(null);
    }
  };
  const nudge = (dx: number, dy: number) => (event: KeyboardEvent) => {
    if (selected && view)
      onChange(...held(selected).map((m) => shifted(m, [dx * (event.shiftKey ? 10 : 1), dy * (event.shiftKey ? 10 : 1)])));
  };
  useKeys(
    Object.fromEntries(
      ([['arrowleft', -1, 0], ['arrowright', 1, 0], ['arrowup', 0, -1], ['arrowdown', 0, 1]] as const).flatMap(([key, dx, dy]) => [[key, nudge(dx, dy)], [`shift+${key}`, nudge(dx, dy)]]),
    ),
    { enabled: selected !== null },
  ); // prettier-ignore
  useKeys(
    { delete: () => selected && onDelete(selected), backspace: () => selected && onDelete(selected) },
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
      onPointerCancel={() => {
        setDrawing(null);
        setMoving(null);
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
