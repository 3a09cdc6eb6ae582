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

export const colourKinds = ['magazine', 'cover', 'map', 'chart', 'plate', 'print', 'coloured', 'kraft', 'form'] as const;
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
): Promise<Raster> {
  const [width, height] = [Math.round(widthMm * pxPerMm), Math.round(heightMm * pxPerMm)];
  const base = (inner: string) => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${widthMm} ${heightMm}">${inner}</svg>`); // prettier-ignore
  const [under, over] = svg.split('<!--over-->');
  const parts = pictures.map((at) => {
    const made = picture(roll, Math.round(at.width * pxPerMm), Math.round(at.height * pxPerMm));
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
