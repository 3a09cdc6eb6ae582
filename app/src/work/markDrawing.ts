import { getStroke } from 'perfect-freehand';
import type { Raster } from '@libretto/core';
import { resizeArea } from '@libretto/core/raster/resize';
import type { Mark, MarkColour } from '@libretto/model';

/** Where marks come to lie in a picture of the page. */
export interface MarkView {
  /** Of the picture, px. */
  width: number;
  height: number;
  pxPerMm: number;
  /** Photo px to shares of the page. */
  toPage: (point: readonly [number, number]) => readonly [number, number];
}

/** What of a canvas's context is used; on the screen's or a worker's canvas. */
export interface Pen {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: string;
  lineJoin: string;
  font: string;
  textBaseline: string;
  globalCompositeOperation: string;
  save(): void;
  restore(): void;
  beginPath(): void;
  closePath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(cx: number, cy: number, x: number, y: number): void;
  fill(): void;
  stroke(): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  strokeRect(x: number, y: number, width: number, height: number): void;
  fillText(text: string, x: number, y: number): void;
  measureText(text: string): { width: number };
  translate(x: number, y: number): void;
  rotate(angle: number): void;
}

/** Inks on paper, whatever the theme of the screen. */
export const inks: Record<MarkColour, string> = {
  ink: '#26211E',
  blue: '#1F3E7A',
  red: '#A33A1E',
  green: '#3F6B3A',
  brass: '#8A6416',
};
/** Highlighters let the print through: these multiply it. */
export const highlighters: Record<MarkColour, string> = {
  ink: '#D8D2CB',
  blue: '#BBD3F2',
  red: '#F4C3B4',
  green: '#C4E3BD',
  brass: '#F3DC98',
};
export const noteFamily = 'AtkinsonHyperlegible_700Bold';
const mmPerPt = 25.4 / 72;
const leading = 1.25;

const px = ({ toPage, width, height }: MarkView, point: readonly number[]): [number, number] => {
  const [x, y] = toPage([point[0]!, point[1]!]);
  return [x * width, y * height];
};

/** Marks that change the page's own picture: nothing of what they take away is left in it. */
export type PictureMark = Mark & { kind: 'cover' | 'part' };
export const isOfPicture = (mark: Mark): mark is PictureMark => mark.kind === 'cover' || mark.kind === 'part';

/** The rectangle between two opposite corners, px of the picture. */
export function rectOf({ from, to }: { from: readonly number[]; to: readonly number[] }, view: MarkView) {
  const [[ax, ay], [bx, by]] = [px(view, from), px(view, to)];
  return { x: Math.min(ax, bx), y: Math.min(ay, by), width: Math.abs(bx - ax), height: Math.abs(by - ay) };
}

/** Strokes as outlines, their width by the pen's pressure where it tells, else by speed (perfect-freehand). */
function strokeOutline(mark: Mark & { kind: 'ink' | 'highlight' }, view: MarkView): number[][] {
  const size = mark.widthMm * view.pxPerMm;
  const points = mark.points.map((p) => [...px(view, p), ...(p[2] === undefined ? [] : [p[2]])]);
  const pen = mark.points.some((p) => p[2] !== undefined);
  const options = mark.kind === 'ink' ? { thinning: 0.45, smoothing: 0.5, streamline: 0.4, simulatePressure: !pen } : { thinning: 0, smoothing: 0.5, streamline: 0.4, simulatePressure: false }; // prettier-ignore
  return getStroke(points, { size, ...options, last: true });
}

/** Draws a mark on the page. */
export function drawMark(c: Pen, mark: Exclude<Mark, PictureMark>, view: MarkView): void {
  c.save();
  if ('points' in mark) {
    const outline = strokeOutline(mark, view);
    if (mark.kind === 'highlight') c.globalCompositeOperation = 'multiply';
    c.fillStyle = (mark.kind === 'ink' ? inks : highlighters)[mark.colour];
    c.beginPath();
    outline.forEach(([x, y], i) => {
      const [nx, ny] = outline[(i + 1) % outline.length]!;
      if (i === 0) c.moveTo(x!, y!);
      c.quadraticCurveTo(x!, y!, (x! + nx!) / 2, (y! + ny!) / 2);
    });
    c.closePath();
    c.fill();
  } else if ('text' in mark) {
    const [x, y] = px(view, mark.at);
    const size = noteSize(mark, view);
    c.translate(x, y);
    c.rotate(noteAngle(mark, view));
    c.fillStyle = inks[mark.colour];
    c.textBaseline = 'alphabetic';
    c.font = fontOf(size);
    noteLines(c, mark, view).forEach((line, i) => c.fillText(line, 0, size * (0.95 + i * leading)));
  } else {
    const [[ax, ay], [bx, by]] = [px(view, mark.from), px(view, mark.to)];
    const r = rectOf(mark, view);
    c.strokeStyle = inks[mark.colour];
    c.lineWidth = mark.widthMm * view.pxPerMm;
    c.lineCap = 'round';
    c.lineJoin = 'round';
    const path = (...points: [number, number][]) => {
      c.beginPath();
      points.forEach(([x, y], i) => (i ? c.lineTo(x, y) : c.moveTo(x, y)));
      c.stroke();
    };
    if (mark.kind === 'box') c.strokeRect(r.x, r.y, r.width, r.height);
    else if (mark.kind === 'tick')
      path([r.x, r.y + r.height * 0.55], [r.x + r.width * 0.35, r.y + r.height], [r.x + r.width, r.y]);
    else if (mark.kind === 'cross') {
      path([r.x, r.y], [r.x + r.width, r.y + r.height]);
      path([r.x + r.width, r.y], [r.x, r.y + r.height]);
    } else {
      path([ax, ay], [bx, by]);
      if (mark.kind === 'arrow') {
        const angle = Math.atan2(by - ay, bx - ax);
        const head = Math.min(Math.hypot(bx - ax, by - ay) * 0.5, c.lineWidth * 6);
        const side = (turn: number): [number, number] => [bx - head * Math.cos(angle + turn), by - head * Math.sin(angle + turn)];
        path(side(0.5), [bx, by], side(-0.5));
      }
    }
  }
  c.restore();
}

const fontOf = (size: number) => `${size}px ${noteFamily}, sans-serif`;
const noteSize = ({ sizePt }: { sizePt: number }, view: MarkView) => sizePt * mmPerPt * view.pxPerMm;
function noteAngle({ at, along }: Mark & { kind: 'note' }, view: MarkView): number {
  const [[ax, ay], [bx, by]] = [px(view, at), px(view, along)];
  return Math.atan2(by - ay, bx - ax);
}

/** A note's lines, broken where the page ends. */
function noteLines(c: Pick<Pen, 'measureText' | 'font'>, mark: Mark & { kind: 'note' }, view: MarkView): string[] {
  const [x, y] = px(view, mark.at);
  const angle = noteAngle(mark, view);
  const room =
    Math.abs(Math.cos(angle)) > 0.7 ? (Math.cos(angle) > 0 ? view.width - x : x) : Math.sin(angle) > 0 ? view.height - y : y;
  c.font = fontOf(noteSize(mark, view));
  return mark.text.split('\n').flatMap((paragraph) => {
    const lines: string[] = [];
    let line = '';
    for (const word of paragraph.split(' ')) {
      const next = line ? `${line} ${word}` : word;
      if (line && c.measureText(next).width > room) {
        lines.push(line);
        line = word;
      } else line = next;
    }
    return [...lines, line];
  });
}

/** The upright rectangle that holds a mark, px of the picture. */
export function boundsOf(c: Pick<Pen, 'measureText' | 'font'>, mark: Mark, view: MarkView) {
  const points: (readonly [number, number])[] = [];
  let pad = 0;
  if ('text' in mark) {
    const [x, y] = px(view, mark.at);
    const angle = noteAngle(mark, view);
    const lines = noteLines(c, mark, view);
    const across = Math.max(...lines.map((line) => c.measureText(line).width));
    const down = noteSize(mark, view) * (lines.length * leading + 0.1);
    for (const [u, v] of [[0, 0], [across, 0], [across, down], [0, down]] as const)
      points.push([x + u * Math.cos(angle) - v * Math.sin(angle), y + u * Math.sin(angle) + v * Math.cos(angle)]); // prettier-ignore
  } else if ('points' in mark) {
    points.push(...mark.points.map((p) => px(view, p)));
    pad = (mark.widthMm * view.pxPerMm) / 2;
  } else {
    points.push(px(view, mark.from), px(view, mark.to));
    pad = isOfPicture(mark) ? 0 : (mark.widthMm * view.pxPerMm) / 2;
  }
  const x = Math.min(...points.map((p) => p[0])) - pad;
  const y = Math.min(...points.map((p) => p[1])) - pad;
  return { x, y, width: Math.max(...points.map((p) => p[0])) + pad - x, height: Math.max(...points.map((p) => p[1])) + pad - y };
}

/** How far round a cover its paper is looked at, mm, and which of the values there, from the darkest: print is darker than paper. */
const roundMm = 2;
const paperRank = 0.7;

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}
const meets = (a: Box, b: Box) => a.x < b.x + b.width && a.y < b.y + b.height && a.x + a.width > b.x && a.y + a.height > b.y;
const holds = (a: Box, b: Box) => b.x >= a.x && b.y >= a.y && b.x + b.width <= a.x + a.width && b.y + b.height <= a.y + a.height;
const sourceOf = ({ source: [from, to] }: Mark & { kind: 'part' }, view: MarkView) => rectOf({ from, to }, view);

/** Whether a mark takes away or hides some of a box on the page. */
export function isUnder(box: Box, mark: PictureMark, view: MarkView): boolean {
  const r = rectOf(mark, view);
  if (mark.kind === 'part') return meets(r, box) || (!mark.stays && meets(sourceOf(mark, view), box));
  return mark.outside ? !holds(r, box) : meets(r, box);
}

/** Makes the changes to the picture itself, in the order in which they were put on. */
export function changePicture(image: Raster, marks: readonly PictureMark[], view: MarkView): void {
  for (const mark of marks) if (mark.kind === 'cover') coverOver(image, mark, view);
    else putElsewhere(image, mark, view); // prettier-ignore
}

/** Whole pixels of a rectangle that lie in the picture. */
function pixelsOf({ width, height }: Raster, r: Box) {
  const [x0, y0] = [Math.max(0, Math.floor(r.x)), Math.max(0, Math.floor(r.y))];
  return { x0, y0, x1: Math.min(width, Math.ceil(r.x + r.width)), y1: Math.min(height, Math.ceil(r.y + r.height)) };
}

/** Takes a part of the picture up and puts it down elsewhere, as large as it is to be: bilinear, from an area's mean where it becomes smaller; dot by dot in its own size. */
function putElsewhere(image: Raster, mark: Mark & { kind: 'part' }, view: MarkView): void {
  const { width, channels, data } = image;
  const [source, to] = [sourceOf(mark, view), rectOf(mark, view)];
  const s = pixelsOf(image, source);
  const [across, down] = [s.x1 - s.x0, s.y1 - s.y0];
  if (across < 1 || down < 1 || to.width < 1 || to.height < 1) return;
  const taken: Raster = { width: across, height: down, channels, data: new Uint8ClampedArray(across * down * channels) };
  for (let y = 0; y < down; y++) {
    const p = ((s.y0 + y) * width + s.x0) * channels;
    taken.data.set(data.subarray(p, p + across * channels), y * across * channels);
  }
  if (!mark.stays) coverOver(image, { kind: 'cover', id: mark.id, from: mark.source[0], to: mark.source[1], fill: 'paper' }, view); // prettier-ignore
  const scale = [to.width / source.width, to.height / source.height] as const;
  const own = scale.every((k) => Math.abs(k - 1) < 0.005);
  const size = (k: 0 | 1, of: number) => (own ? of : Math.max(1, Math.round(of * scale[k])));
  const part = own ? taken : stretched(taken, size(0, across), size(1, down));
  const x0 = Math.round(to.x + (s.x0 - source.x) * scale[0]);
  const y0 = Math.round(to.y + (s.y0 - source.y) * scale[1]);
  for (let y = Math.max(0, -y0); y < Math.min(part.height, image.height - y0); y++) {
    const from = Math.max(0, -x0);
    const until = Math.min(part.width, width - x0);
    if (from >= until) return;
    const row = part.data.subarray((y * part.width + from) * channels, (y * part.width + until) * channels);
    data.set(row, ((y0 + y) * width + x0 + from) * channels);
  }
}

/** In another size. */
function stretched(image: Raster, width: number, height: number): Raster {
  const { channels } = image;
  const from = resizeArea(image, Math.min(width, image.width), Math.min(height, image.height));
  const data = new Uint8ClampedArray(width * height * channels);
  const places = (count: number, of: number) =>
    Array.from({ length: count }, (_, i) => {
      const v = Math.max(0, Math.min(of - 1, ((i + 0.5) * of) / count - 0.5));
      const low = Math.floor(v);
      return [low, Math.min(low + 1, of - 1), v - low] as const;
    });
  const xs = places(width, from.width);
  places(height, from.height).forEach(([ya, yb, fy], y) => {
    xs.forEach(([xa, xb, fx], x) => {
      for (let k = 0; k < channels; k++) {
        // The shrunk one is without alpha: a page is opaque.
        const at = (px: number, py: number) => (k < from.channels ? from.data[(py * from.width + px) * from.channels + k]! : 255);
        const [above, below] = [at(xa, ya) * (1 - fx) + at(xb, ya) * fx, at(xa, yb) * (1 - fx) + at(xb, yb) * fx];
        data[(y * width + x) * channels + k] = above * (1 - fy) + below * fy;
      }
    });
  });
  return { width, height, channels, data };
}

/** Takes away what lies under a cover, or all but that, in the picture itself. */
export function coverOver(image: Raster, mark: Mark & { kind: 'cover' }, view: MarkView): void {
  const r = rectOf(mark, view);
  const { width, height, channels, data } = image;
  const out = mark.outside ?? false;
  // What is kept lies wholly within it, what is covered wholly under it.
  const [low, high] = out ? [Math.ceil, Math.floor] : [Math.floor, Math.ceil];
  const [x0, y0] = [Math.max(0, low(r.x)), Math.max(0, low(r.y))];
  const [x1, y1] = [Math.min(width, high(r.x + r.width)), Math.min(height, high(r.y + r.height))];
  const reach = Math.round(roundMm * view.pxPerMm);
  const fill = mark.fill === 'black' ? [0, 0, 0] : mark.fill === 'white' ? [255, 255, 255] : paperRound(image, x0, y0, x1, y1, out ? -reach : reach); // prettier-ignore
  const over = (y: number, from: number, to: number) => {
    for (let x = from; x < to; x++) {
      const p = (y * width + x) * channels;
      for (let k = 0; k < Math.min(3, channels); k++) data[p + k] = fill[k]!;
    }
  };
  if (!out) for (let y = y0; y < y1; y++) over(y, x0, x1);
  else
    for (let y = 0; y < height; y++) {
      const within = y >= y0 && y < y1;
      over(y, 0, within ? x0 : width);
      if (within) over(y, Math.max(x0, x1), width);
    }
}

/** The paper's colour in a band about a rectangle: outside it, or inside for a reach below 0. */
function paperRound(
  { width, height, channels, data }: Raster,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  reach: number,
): number[] {
  const values: number[][] = [[], [], []];
  const step = Math.max(1, Math.floor((x1 - x0 + y1 - y0) / 400));
  const [more, less] = [Math.max(0, reach), Math.max(0, -reach)];
  for (let y = Math.max(0, y0 - more); y < Math.min(height, y1 + more); y += step)
    for (let x = Math.max(0, x0 - more); x < Math.min(width, x1 + more); x += step) {
      if (x >= x0 + less && x < x1 - less && y >= y0 + less && y < y1 - less) continue;
      for (let k = 0; k < 3; k++) values[k]!.push(data[(y * width + x) * channels + (channels === 1 ? 0 : k)]!);
    }
  return values.map((v) => (v.length ? v.sort((a, b) => a - b)[Math.floor(paperRank * (v.length - 1))]! : 255));
}
