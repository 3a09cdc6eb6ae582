import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { noise } from '@libretto/demo/scene/noise';
import { colourKinds, colourPaper, type ColourKind } from './colourPapers';
import { inventedPaper } from './paper';
import type { Roll } from './roll';

/** Pages on which it is to be told what is printed and what is bare paper: those full of colour, invented ones, stained old ones, pictures all over, and grey pictures on paper. */
export const pageKinds = [...colourKinds, 'invented', 'old', 'full', 'grey'] as const;
export type PageKind = (typeof pageKinds)[number];

export interface ToldPage {
  picture: Raster;
  /** What tells the truth: without stains, pictures as one grey; null: nothing on it is paper. */
  clean: Raster | null;
  widthMm: number;
  heightMm: number;
}

export async function printedPage(kind: PageKind, roll: Roll): Promise<ToldPage> {
  if (kind === 'old') return oldPage(roll);
  if (kind === 'full') return fullPicture(roll);
  if (kind === 'grey') return greyPictures(roll);
  if (kind !== 'invented') {
    const paper = await colourPaper(kind as ColourKind, roll);
    return { ...paper, clean: paper.picture };
  }
  const [widthMm, heightMm] = pick(roll, [[210, 297], [148, 210], [85, 55], [80, 200]] as const); // prettier-ignore
  const picture = inventedPaper(widthMm, heightMm, roll, roll(0, 1) < 0.1);
  return { picture, clean: picture, widthMm, heightMm };
}

const pick = <T>(roll: Roll, list: readonly T[]): T => list[Math.floor(roll(0, list.length - 1e-6))]!;
const words = 'quo tide slip mast oak larch keel stem frame plank rope sail anchor buoy shoal quay yard north wind'.split(' ');
const rgb = (c: readonly number[]) => `rgb(${c.map((v) => Math.round(v)).join(',')})`;

/** Closely printed, yellowed, foxed, browned along its sides and dark towards a gutter. */
async function oldPage(roll: Roll): Promise<ToldPage> {
  const [widthMm, heightMm] = roll(0, 1) < 0.7 ? [140, 210] : [210, 297];
  const red = roll(205, 250);
  const green = red * roll(0.9, 0.97);
  const ink = rgb([roll(20, 80), roll(20, 60), roll(15, 50)]);
  const size = roll(2.6, 5);
  const margin = widthMm * roll(0.08, 0.14);
  let body = `<text x="${margin}" y="${heightMm * 0.09}" font-family="serif" font-size="${size * roll(2, 4)}" fill="${roll(0, 1) < 0.3 ? '#a23a28' : ink}">TIDE MILL</text>`;
  for (let y = heightMm * roll(0.1, 0.35), end = heightMm * roll(0.8, 0.94); y < end; y += size * roll(1.15, 1.4)) {
    let line = '';
    while ((line.length + 6) * size * 0.5 < widthMm - 2 * margin) line += `${pick(roll, words)} `;
    body += `<text x="${margin}" y="${y}" font-family="serif" font-size="${size}" fill="${roll(0, 1) < 0.06 ? '#a5402c' : ink}">${line}</text>`;
  }
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthMm * 5}" height="${heightMm * 5}" viewBox="0 0 ${widthMm} ${heightMm}"><rect width="100%" height="100%" fill="${rgb([red, green, green * roll(0.72, 0.95)])}"/>${body}</svg>`;
  const { data, info } = await sharp(Buffer.from(svg)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const clean: Raster = { width: info.width, height: info.height, channels: 3, data };
  const stained = Buffer.from(data);
  const seed = Math.floor(roll(1, 1e6));
  const [deep, scale] = [roll(0.05, 0.35), roll(60, 400)];
  const foxing = roll(0, 1) < 0.5 ? roll(0.05, 0.2) : 0;
  const gutter = roll(0, 1) < 0.4 ? roll(0.3, 0.8) : 0;
  const rim = roll(0, 0.35);
  for (let y = 0, p = 0; y < clean.height; y++)
    for (let x = 0; x < clean.width; x++, p += 3) {
      const stain = noise(x / scale, y / scale, seed) * 0.7 + noise((4 * x) / scale, (4 * y) / scale, seed + 1) * 0.3;
      const spot = foxing && noise(x / 14, y / 14, seed + 2) > 0.86 ? foxing : 0;
      const edge = Math.min(x, y, clean.width - 1 - x, clean.height - 1 - y) / clean.width;
      const brown = deep * Math.max(0, stain - 0.35) * 1.4 + spot + rim * Math.exp(-edge / 0.05);
      const shade = gutter ? 1 - gutter * Math.exp(-x / clean.width / 0.12) : 1;
      for (const [c, share] of [0.55, 0.8, 1.15].entries()) stained[p + c] = stained[p + c]! * shade * (1 - share * Math.min(0.8, brown)); // prettier-ignore
    }
  return { picture: { ...clean, data: stained }, clean, widthMm, heightMm };
}

/** A photograph without margins: smooth grounds, things with light and shade. */
function fullPicture(roll: Roll): ToldPage {
  const [widthMm, heightMm] = roll(0, 1) < 0.5 ? [150, 100] : [110, 160];
  const [width, height] = [widthMm! * 5, heightMm! * 5];
  const data = new Uint8ClampedArray(width * height * 3);
  const seed = Math.floor(roll(1, 1e6));
  const tone = () => [roll(20, 250), roll(20, 245), roll(20, 245)];
  const [from, to] = [tone(), tone()];
  const [angle, soft] = [roll(0, 2 * Math.PI), roll(0, 60)];
  const things = Array.from({ length: Math.floor(roll(1, 6)) }, () => ({ x: roll(0, 1), y: roll(0, 1), rx: roll(0.05, 0.45), ry: roll(0.05, 0.45), box: roll(0, 1) < 0.5, light: tone(), shade: tone() })); // prettier-ignore
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p += 3) {
      const [u, v] = [x / width, y / height];
      const t = Math.max(0, Math.min(1, 0.5 + (u - 0.5) * Math.cos(angle) + (v - 0.5) * Math.sin(angle)));
      let colour = from.map((s, k) => s + (to[k]! - s) * t + soft * (noise(u * 4, v * 4, seed) - 0.5));
      for (const thing of things) {
        const [dx, dy] = [(u - thing.x) / thing.rx, (v - thing.y) / thing.ry];
        if (thing.box ? Math.max(Math.abs(dx), Math.abs(dy)) >= 1 : dx * dx + dy * dy >= 1) continue;
        const lit = Math.max(0, Math.min(1, 0.5 + 0.5 * dx + 0.3 * dy));
        colour = thing.light.map((s, k) => s * lit + thing.shade[k]! * (1 - lit) + 14 * (noise(x / 6, y / 6, seed + 1) - 0.5));
      }
      for (let c = 0; c < 3; c++) data[p + c] = colour[c]!;
    }
  return { picture: { width, height, channels: 3, data }, clean: null, widthMm: widthMm!, heightMm: heightMm! };
}

/** One or two grey pictures on an invented sheet, some with a pale place in them. */
function greyPictures(roll: Roll): ToldPage {
  const [widthMm, heightMm] = pick(roll, [[210, 297], [148, 210], [190, 250]] as const); // prettier-ignore
  const picture = inventedPaper(widthMm, heightMm, roll);
  const { width, height } = picture;
  const clean = { ...picture, data: picture.data.slice() };
  const seed = Math.floor(roll(1, 1e6));
  const tint = roll(0, 1) < 0.8 ? [1, 1, 1] : [1, roll(0.85, 1), roll(0.7, 0.95)];
  for (let n = Math.floor(roll(1, 2.99)); n > 0; n--) {
    const [w, h] = [width * roll(0.3, 1), height * roll(0.15, 0.6)];
    const [x0, y0] = [width - w, height - h].map((room) => Math.round(roll(0, 1) < 0.3 ? 0 : roll(0, room)));
    const [low, high, size, mix] = [roll(5, 90), roll(150, 255), roll(6, 90), roll(0, 1)];
    const waves = roll(0, 1) < 0.3;
    const pale = roll(0, 1) < 0.3 ? [roll(0.2, 0.8) * w, roll(0.1, 0.9) * h, roll(0.05, 0.25) * w] : null;
    for (let y = y0!; y < Math.min(height, y0! + h); y++)
      for (let x = x0!; x < Math.min(width, x0! + w); x++) {
        const t = waves
          ? 0.5 + 0.25 * Math.sin((x / size) * 2 + 2 * Math.sin(y / size)) + 0.25 * Math.sin((y / size) * 2.2 + 1.5 * Math.sin(x / size)) // prettier-ignore
          : mix * noise(x / size, y / size, seed + n) + (1 - mix) * noise((5 * x) / size, (5 * y) / size, seed + n + 50);
        const inPale = pale && Math.hypot(x - x0! - pale[0]!, y - y0! - pale[1]!) < pale[2]!;
        const level = inPale ? 250 : low + (high - low) * Math.max(0, Math.min(1, (t - 0.5) * 1.5 + 0.5));
        for (let c = 0; c < 3; c++) {
          picture.data[(y * width + x) * 3 + c] = level * tint[c]!;
          clean.data[(y * width + x) * 3 + c] = 115 * tint[c]!;
        }
      }
  }
  return { picture, clean, widthMm, heightMm };
}

/** What light does beside shadows: a pool of glare, falling off from a place, sun and shade with a hard edge, or nothing more. */
export function furtherLight(photo: Raster, roll: Roll): Raster {
  const { width, height } = photo;
  const data = Buffer.from(photo.data);
  const each = (change: (x: number, y: number, v: number, c: number) => number) => {
    for (let y = 0, p = 0; y < height; y++)
      for (let x = 0; x < width; x++, p += 3)
        for (let c = 0; c < 3; c++) data[p + c] = Math.max(0, Math.min(255, change(x, y, data[p + c]!, c)));
  };
  const which = roll(0, 1);
  const [cx, cy] = [roll(0, width), roll(0, height)];
  if (which < 0.25) {
    const [reach, strength] = [roll(0.12, 0.4) * height, roll(0.1, 0.5)];
    each((x, y, v) => v + (255 - v) * strength * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * reach * reach)));
  } else if (which < 0.55) {
    const [less, far] = [roll(0.2, 0.75), width * width + height * height];
    each((x, y, v) => v * (1 - less * Math.min(1, (2 * ((x - cx) ** 2 + (y - cy) ** 2)) / far)));
  } else if (which < 0.7) {
    const [angle, at] = [roll(0, 2 * Math.PI), roll(-0.35, 0.35) * height];
    const wide = roll(0, 1) < 0.5 ? roll(0.1, 0.4) * height : Infinity;
    const [shade, soft] = [roll(0.35, 0.65), roll(1, 12)];
    const cool = [roll(0.88, 1), 1, roll(1, 1.12)];
    each((x, y, v, c) => {
      const off = (x - width / 2) * Math.cos(angle) + (y - height / 2) * Math.sin(angle) - at;
      const lit = 1 / (1 + Math.exp(-Math.min(off, wide - off) / soft));
      return v * (lit * 1.12 + (1 - lit) * shade * cool[c]!);
    });
  }
  return { ...photo, data };
}
