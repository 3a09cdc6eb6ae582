import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { noise } from '@libretto/demo/scene/noise';
import type { Roll } from './roll';

/** Pages with colour to lose, and what they are. */
export interface ColourPaper {
  kind: ColourKind;
  picture: Raster;
  widthMm: number;
  heightMm: number;
}

export const colourKinds = [
  'magazine',
  'cover',
  'map',
  'chart',
  'plate',
  'print',
  'coloured',
  'kraft',
  'form',
  'newspaper',
  'painting',
  'flyer',
  'album',
  'certificate',
  'letter',
] as const;
export type ColourKind = (typeof colourKinds)[number];

const pxPerMm = 6;
const words =
  'tide slip mast oak larch keel stem frame plank rope sail anchor buoy shoal quay yard north wind fair ebb flood spring neap caulk pitch'.split(
    ' ',
  );
const pick = <T>(roll: Roll, list: readonly T[]): T => list[Math.floor(roll(0, list.length - 1e-6))]!;
const rgb = (c: readonly number[]) => `rgb(${c.map((v) => Math.round(Math.max(0, Math.min(255, v)))).join(',')})`;

/** Lines of invented text in a column. */
function column(roll: Roll, x: number, y: number, width: number, height: number, size: number, colour: string): string {
  const lines: string[] = [];
  for (let at = y + size; at < y + height; at += size * 1.35) {
    let line = '';
    while ((line.length + 7) * size * 0.52 < width) line += `${pick(roll, words)} `;
    lines.push(`<text x="${x}" y="${at.toFixed(1)}" font-family="serif" font-size="${size}" fill="${colour}">${line}</text>`);
  }
  return lines.join('');
}

/** Tones as a photograph or a painting has them: sky, land, things with light and shade. */
function picture(roll: Roll, width: number, height: number): Raster {
  const data = new Uint8ClampedArray(width * height * 3);
  const seed = Math.floor(roll(1, 1e6));
  const sky = [roll(120, 235), roll(150, 235), roll(170, 250)];
  const low = [roll(200, 255), roll(190, 245), roll(160, 240)];
  const land = [roll(40, 190), roll(60, 180), roll(20, 120)];
  const horizon = roll(0.3, 0.7);
  const things = Array.from({ length: Math.floor(roll(2, 7)) }, () => ({
    x: roll(0.05, 0.95), y: roll(0.3, 0.95), r: roll(0.05, 0.22), colour: [roll(15, 245), roll(15, 235), roll(15, 225)],
  })); // prettier-ignore
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p += 3) {
      const [u, v] = [x / width, y / height];
      const fine = noise(x / 5, y / 4, seed) - 0.5;
      const wide = noise(u * 5, v * 9, seed + 1) - 0.5;
      const edge = horizon + 0.06 * (noise(u * 7, 0.5, seed + 2) - 0.5);
      let c = v < edge ? sky.map((s, k) => s + (low[k]! - s) * (v / edge) + 40 * wide) : land.map((s) => s * (0.7 + 0.6 * (v - edge)) * (1 + 0.9 * wide + 0.35 * fine)); // prettier-ignore
      for (const t of things) {
        const [dx, dy] = [(u - t.x) / t.r, (v - t.y) / t.r];
        const d = dx * dx + dy * dy;
        if (d < 1)
          c = t.colour.map((s) => s * (0.35 + 0.8 * Math.max(0, 1 - ((dx + 0.4) ** 2 + (dy + 0.4) ** 2) / 2)) + 12 * fine);
      }
      for (let k = 0; k < 3; k++) data[p + k] = c[k]!;
    }
  return { width, height, channels: 3, data };
}

interface Placed {
  x: number;
  y: number;
  width: number;
  height: number;
}

async function composed(
  widthMm: number,
  heightMm: number,
  svg: string,
  pictures: readonly Placed[],
  roll: Roll,
  toned: (made: Raster) => Raster = (made) => made,
): Promise<Raster> {
  const [width, height] = [Math.round(widthMm * pxPerMm), Math.round(heightMm * pxPerMm)];
  const base = (inner: string) => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${widthMm} ${heightMm}">${inner}</svg>`); // prettier-ignore
  const [under, over] = svg.split('<!--over-->');
  const parts = pictures.map((at) => {
    const made = toned(picture(roll, Math.round(at.width * pxPerMm), Math.round(at.height * pxPerMm)));
    return { input: Buffer.from(made.data), raw: { width: made.width, height: made.height, channels: 3 as const }, left: Math.round(at.x * pxPerMm), top: Math.round(at.y * pxPerMm) }; // prettier-ignore
  });
  const { data, info } = await sharp(base(under!))
    .composite([...parts, ...(over ? [{ input: base(over) }] : [])])
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: 3, data };
}

const box = (x: number, y: number, w: number, h: number, fill: string, more = '') =>
  `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}" ${more}/>`;
const title = (x: number, y: number, size: number, fill: string, text: string) => `<text x="${x}" y="${y}" font-family="sans-serif" font-weight="bold" font-size="${size}" fill="${fill}">${text}</text>`; // prettier-ignore

const makers: Record<ColourKind, (roll: Roll) => Promise<Omit<ColourPaper, 'kind'>>> = {
  async magazine(roll) {
    const [w, h] = [210, 285];
    const full = roll(0, 1) < 0.4;
    const tinted = roll(0, 1) < 0.5;
    const paper = tinted ? rgb([roll(190, 250), roll(190, 245), roll(170, 240)]) : '#fdfcfa';
    const top = roll(90, 170);
    const panel = [roll(20, 230), roll(30, 220), roll(40, 230)];
    const pictures = full ? [{ x: 0, y: 0, width: w, height: h }] : [{ x: 0, y: 0, width: w, height: top }, ...(roll(0, 1) < 0.5 ? [{ x: 110, y: top + 40, width: 88, height: 60 }] : [])]; // prettier-ignore
    const text = full
      ? column(roll, 14, h * 0.62, 84, 90, 3.6, '#fff')
      : column(roll, 14, top + 22, 86, h - top - 36, 3.4, '#1a1a1a');
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, paper)}<!--over-->${full ? box(8, h * 0.6, 100, 100, rgb(panel.map((v) => v * 0.5))) : box(108, h - 74, 90, 60, rgb(panel))}${text}${full ? '' : column(roll, 112, h - 70, 82, 50, 3.4, panel[1]! > 140 ? '#111' : '#fff')}${title(14, full ? 40 : top + 14, full ? 22 : 11, full ? '#ffe9a0' : rgb(panel), 'Fair wind')}`, pictures, roll) }; // prettier-ignore
  },
  async cover(roll) {
    const [w, h] = [210, 285];
    const c = [roll(10, 240), roll(10, 230), roll(10, 230)];
    const framed = roll(0, 1) < 0.5;
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb(c))}<!--over-->${title(14, 44, 34, c[0]! + c[1]! + c[2]! > 380 ? '#1c2b40' : '#fff', 'The Yard')}${column(roll, 14, h - 50, 120, 34, 6, '#fff')}`, framed ? [{ x: 14, y: 60, width: w - 28, height: h - 118 }] : [{ x: 0, y: 52, width: w, height: h - 52 }], roll) }; // prettier-ignore
  },
  map: (roll) => mapped(roll, false),
  chart: (roll) => mapped(roll, true),
  async plate(roll) {
    const [w, h] = [190, 250];
    const m = roll(14, 34);
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb([roll(240, 253), roll(236, 250), roll(222, 246)]))}<!--over-->${column(roll, m, h - m * 1.1, w - 2 * m, 10, 4, '#333')}`, [{ x: m, y: m, width: w - 2 * m, height: h - 2.4 * m }], roll) }; // prettier-ignore
  },
  async print(roll) {
    const [w, h] = roll(0, 1) < 0.5 ? [150, 100] : [130, 180];
    const m = roll(0, 1) < 0.5 ? 0 : roll(3, 8);
    return { widthMm: w!, heightMm: h!, picture: await composed(w!, h!, box(0, 0, w!, h!, '#fbfbfa'), [{ x: m, y: m, width: w! - 2 * m, height: h! - 2 * m }], roll) }; // prettier-ignore
  },
  async coloured(roll) {
    const [w, h] = [210, 297];
    const paper = pick(roll, [[250, 150, 40], [255, 214, 60], [120, 200, 110], [110, 175, 225], [240, 140, 165], [200, 170, 220], [235, 90, 70], [250, 225, 160]]).map((v) => v * roll(0.92, 1)); // prettier-ignore
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb(paper))}${title(20, 34, 13, '#20201f', 'Job sheet')}${column(roll, 20, 46, 170, roll(90, 220), 4.2, '#20201f')}`, [], roll) }; // prettier-ignore
  },
  async kraft(roll) {
    const [w, h] = [229, 162];
    const c = [roll(176, 205), roll(135, 160), roll(88, 118)];
    const window = roll(0, 1) < 0.6;
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb(c))}${Array.from({ length: 90 }, () => box(roll(0, w), roll(0, h), roll(1, 9), 0.25, rgb(c.map((v) => v * roll(0.86, 1.1))))).join('')}${window ? box(20, 78, 95, 42, '#f4f4f0', 'rx="3"') + column(roll, 26, 84, 80, 28, 4.6, '#222') : box(100, 70, 95, 50, '#fdfdfb') + column(roll, 106, 76, 80, 36, 5, '#222')}${box(190, 12, 26, 31, rgb([roll(60, 220), roll(40, 180), roll(60, 220)]))}${title(14, 20, 6, '#3a2d20', 'Saltmarsh Quay')}`, [], roll) }; // prettier-ignore
  },
  async form(roll) {
    const [w, h] = [210, 297];
    const band = rgb([roll(20, 230), roll(20, 200), roll(20, 220)]);
    const pale = rgb([roll(222, 246), roll(224, 246), roll(226, 250)]);
    const rows = Array.from({ length: 9 }, (_, i) => box(18, 92 + i * 20, 174, 10, i % 2 ? pale : '#fff') + column(roll, 22, 93 + i * 20, 150, 8, 3.8, '#222')).join(''); // prettier-ignore
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, '#fff')}${box(0, 0, w, 32, band)}${title(18, 21, 10, '#fff', 'Berth 14')}${column(roll, 18, 40, 174, 34, 4, '#222')}${rows}`, [], roll) }; // prettier-ignore
  },
  async newspaper(roll) {
    const [w, h] = [280, 380];
    const paper = roll(214, 238);
    const grey = (made: Raster): Raster => {
      for (let p = 0; p < made.data.length; p += 3) made.data.fill(0.3 * made.data[p]! + 0.59 * made.data[p + 1]! + 0.11 * made.data[p + 2]!, p, p + 3); // prettier-ignore
      return made;
    };
    const top = roll(120, 170);
    const columns = [12, 102, 192].map((x) => column(roll, x, top + 6, 80, h - top - 20, 3.4, '#2b2b2b')).join('');
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb([paper, paper - roll(2, 8), paper - roll(8, 22)]))}<!--over-->${title(12, 34, 24, '#202020', 'The Tide Table')}${box(12, 42, w - 24, 1, '#333')}${columns}`, [{ x: 12, y: 50, width: roll(120, 250), height: top - 58 }], roll, grey) }; // prettier-ignore
  },
  // Colour that fades into the paper.
  async painting(roll) {
    const [w, h] = [200, 260];
    const paper = [roll(240, 252), roll(236, 250), roll(226, 248)];
    const seed = Math.floor(roll(1, 1e6));
    const [soft, tones] = [roll(0.1, 0.5), [0, 1, 2].map(() => [roll(20, 230), roll(30, 220), roll(40, 230)])];
    const washed = (made: Raster): Raster => {
      for (let y = 0, p = 0; y < made.height; y++)
        for (let x = 0; x < made.width; x++, p += 3) {
          const at = Math.min(x, made.width - 1 - x, y, made.height - 1 - y) / made.width;
          const there = Math.max(0, Math.min(1, (at - 0.1 + 0.3 * (noise(x / 90, y / 90, seed) - 0.5)) / (soft * 0.4)));
          const t = tones[Math.floor(noise(x / 210, y / 150, seed + 3) * 2.99)]!;
          const grain = 0.85 + 0.3 * noise(x / 12, y / 12, seed + 5);
          for (let c = 0; c < 3; c++) made.data[p + c] = paper[c]! + there * (Math.min(255, 0.5 * (made.data[p + c]! + t[c]! * grain)) - paper[c]!); // prettier-ignore
        }
      return made;
    };
    return { widthMm: w, heightMm: h, picture: await composed(w, h, box(0, 0, w, h, rgb(paper)), [{ x: 0, y: 0, width: w, height: h }], roll, washed) }; // prettier-ignore
  },
  async flyer(roll) {
    const [w, h] = [148, 210];
    const c = () => rgb([roll(20, 245), roll(30, 235), roll(20, 240)]);
    const shapes = Array.from({ length: Math.floor(roll(3, 8)) }, () => roll(0, 1) < 0.5 ? `<circle cx="${roll(0, w)}" cy="${roll(0, h)}" r="${roll(8, 50)}" fill="${c()}"/>` : box(roll(-20, w), roll(-20, h), roll(20, 120), roll(10, 70), c(), `transform="rotate(${roll(-30, 30)} ${w / 2} ${h / 2})"`)).join(''); // prettier-ignore
    const fade = `<defs><linearGradient id="g" x1="0" y1="0" x2="${roll(0, 1)}" y2="1"><stop offset="0" stop-color="${c()}"/><stop offset="1" stop-color="#fff"/></linearGradient></defs>${roll(0, 1) < 0.5 ? box(0, 0, w, h * roll(0.3, 1), 'url(#g)') : ''}`; // prettier-ignore
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, '#fefefe')}${fade}${shapes}${title(12, 60, 18, c(), 'Open yard')}${column(roll, 12, 130, 100, 60, 4.4, '#222')}`, [], roll) }; // prettier-ignore
  },
  // Photographs on a page, each with its white rim.
  async album(roll) {
    const [w, h] = [210, 240];
    const page =
      roll(0, 1) < 0.5 ? [roll(246, 254), roll(244, 252), roll(236, 250)] : [roll(190, 235), roll(180, 225), roll(150, 215)];
    const places = [[14, 16], [112, 16], [14, 126], [112, 126]].slice(0, Math.floor(roll(2, 4.99))).map(([x, y]) => ({ x: x! + roll(0, 6), y: y! + roll(0, 6), width: roll(60, 80), height: roll(60, 90) })); // prettier-ignore
    const rims = places.map((at) => box(at.x - 2.5, at.y - 2.5, at.width + 5, at.height + 5, '#fdfdfc')).join('');
    return { widthMm: w, heightMm: h, picture: await composed(w, h, box(0, 0, w, h, rgb(page)) + rims, places, roll) };
  },
  async certificate(roll) {
    const [w, h] = [297, 210];
    const pale = [roll(170, 225), roll(180, 225), roll(170, 230)];
    const waves = Array.from({ length: 60 }, (_, i) => `<path d="M14 ${16 + i * 3} q 22 ${roll(-14, 14)} 45 0 t 45 0 t 45 0 t 45 0 t 45 0 t 44 0" fill="none" stroke="${rgb(pale)}" stroke-width="0.7"/>`).join(''); // prettier-ignore
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, rgb([roll(244, 253), roll(242, 252), roll(232, 250)]))}${waves}${box(12, 14, w - 24, h - 26, 'none', `stroke="${rgb(pale.map((v) => v * 0.6))}" stroke-width="${roll(2, 5)}"`)}${title(60, 70, 16, '#1f2a44', 'Certificate')}${column(roll, 60, 84, 180, 60, 5, '#222')}<circle cx="240" cy="165" r="14" fill="${rgb([roll(150, 220), roll(20, 120), roll(20, 90)])}"/>`, [], roll) }; // prettier-ignore
  },
  // Nothing on it is to be taken for a picture but what may be one.
  async letter(roll) {
    const [w, h] = [210, 297];
    const head = roll(0, 1);
    const table = Array.from({ length: 7 }, (_, i) => box(20, 170 + i * 11, 170, 0.4, '#444') + column(roll, 22, 171 + i * 11, 120, 8, 3.6, '#222')).join(''); // prettier-ignore
    const bars = Array.from({ length: 40 }, (_, i) => box(140 + i * 1.2, 262, roll(0.2, 0.9), 14, '#111')).join('');
    return { widthMm: w, heightMm: h, picture: await composed(w, h, `${box(0, 0, w, h, '#fff')}${head < 0.3 ? box(20, 12, 170, 22, '#191919') + title(26, 28, 12, '#fff', 'Saltmarsh Quay') : title(20, 34, head < 0.6 ? 26 : 12, '#111', 'Slip 2')}${column(roll, 20, 46, roll(120, 170), roll(50, 110), 4.2, '#222')}${table}${roll(0, 1) < 0.5 ? bars : ''}<path d="M30 270 q 12 -16 20 0 t 22 -4 t 18 2" fill="none" stroke="#1d2f6f" stroke-width="0.8"/>`, [], roll) }; // prettier-ignore
  },
};

/** Land, water, woods, contours, roads and names; or depths. */
async function mapped(roll: Roll, depths: boolean): Promise<Omit<ColourPaper, 'kind'>> {
  const [w, h] = [240, 297];
  const seed = Math.floor(roll(1, 1e6));
  const [width, height] = [w * pxPerMm, h * pxPerMm];
  const data = new Uint8ClampedArray(width * height * 3);
  const land = depths ? [250, 234, 180] : [roll(236, 250), roll(232, 246), roll(214, 232)];
  const wood = [roll(185, 215), roll(215, 232), roll(170, 195)];
  const water = [roll(165, 205), roll(205, 228), roll(228, 244)];
  const deep = depths ? [253, 253, 252] : water;
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p += 3) {
      const z = noise(x / 380, y / 330, seed) * 0.7 + noise(x / 110, y / 120, seed + 1) * 0.3;
      const trees = noise(x / 160, y / 140, seed + 2) > 0.58;
      const isWater = depths ? z < 0.6 : z < 0.38;
      let c = isWater ? (z < 0.45 ? deep : water) : trees && !depths ? wood : land;
      const contour = Math.abs(((z * 40) % 1) - 0.5) < 0.035;
      if (contour) c = isWater ? c.map((v, k) => v - [60, 40, 15][k]!) : [195, 150, 105];
      for (let k = 0; k < 3; k++) data[p + k] = c[k]!;
    }
  const roads = Array.from({ length: 6 }, () => `<path d="M${roll(0, w)} ${roll(0, h)} Q${roll(0, w)} ${roll(0, h)} ${roll(0, w)} ${roll(0, h)}" fill="none" stroke="${pick(roll, ['#d2402f', '#e8a33a', '#666'])}" stroke-width="${roll(0.5, 1.4)}"/>`).join(''); // prettier-ignore
  const names = Array.from({ length: 40 }, () => `<text x="${roll(4, w - 30)}" y="${roll(8, h - 4)}" font-family="sans-serif" font-size="${roll(2.6, 6)}" fill="${depths ? '#333' : pick(roll, ['#222', '#2a5b9c', '#5b3a1a'])}">${depths ? Math.floor(roll(1, 40)) : pick(roll, words)}</text>`).join(''); // prettier-ignore
  const over = Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${w} ${h}">${roads}${names}${box(0, 0, w, h, 'none', 'stroke="#fbfbf8" stroke-width="16"')}</svg>`); // prettier-ignore
  const made = await sharp(Buffer.from(data), { raw: { width, height, channels: 3 } }).composite([{ input: over }]).removeAlpha().raw().toBuffer(); // prettier-ignore
  return { widthMm: w, heightMm: h, picture: { width, height, channels: 3, data: made } };
}

export const colourPaper = async (kind: ColourKind, roll: Roll): Promise<ColourPaper> => ({
  kind,
  ...(await makers[kind](roll)),
});
