import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { deskMm } from './desks';
import type { Roll } from './roll';

/** What people photograph by mistake, full of straight lines and right angles and without any page. Those of `unseen` are never trained on. */
export const families = [
  'keyboard',
  'blinds',
  'bookshelf',
  'hob',
  'sink',
  'floor',
  'carpet',
  'laptop',
  'window',
  'cells',
  'panel',
] as const;
export const unseen = ['bricks', 'grille', 'drawers', 'parquet'] as const;
export type Family = (typeof families)[number] | (typeof unseen)[number];

const pxPerMm = 1.6;
type Colour = readonly [number, number, number];
const css = (c: readonly number[], k = 1) => `rgb(${c.map((v) => Math.round(Math.max(0, Math.min(255, v * k)))).join(',')})`;
const rect = (x: number, y: number, w: number, h: number, fill: string, more = '') =>
  `<rect x="${x.toFixed(1)}" y="${y.toFixed(1)}" width="${w.toFixed(1)}" height="${h.toFixed(1)}" fill="${fill}" ${more}/>`;
const any = (roll: Roll, low = 15, high = 240): Colour => [roll(low, high), roll(low, high), roll(low, high)];
const greyish = (roll: Roll, low: number, high: number): Colour => {
  const v = roll(low, high);
  return [v * roll(0.94, 1.05), v, v * roll(0.92, 1.06)];
};
const letters = 'QWERTYUIOPASDFGHJKLZXCVBNM1234567890';

/** Rows of keys about a middle. */
function keys(roll: Roll, x0: number, y0: number, width: number, scale = 1): string {
  const dark = roll(0, 1) < 0.55;
  const [plate, key] = dark ? [greyish(roll, 10, 60), greyish(roll, 18, 55)] : [greyish(roll, 150, 225), greyish(roll, 205, 250)];
  const ink = dark ? '#ddd' : '#444';
  const pitch = 19 * scale;
  const gap = roll(1.2, 3) * scale;
  const rows = Math.floor(roll(5, 6.99));
  const out = [rect(x0 - 6, y0 - 6, width + 12, rows * pitch + 12, css(plate), `rx="${roll(2, 9)}"`)];
  for (let r = 0; r < rows; r++)
    for (let x = x0, k = 0; x < x0 + width - 3; k++) {
      const wide = r === rows - 1 && k === 3 ? 5.5 : k === 0 ? 1 + r * 0.2 : 1;
      const w = Math.min(wide * pitch, x0 + width - x) - gap;
      const y = y0 + r * pitch;
      out.push(rect(x, y, w, pitch - gap, css(key, roll(0.95, 1.05)), `rx="${roll(1, 2.5)}"`));
      out.push(rect(x + 1, y + 0.6, w - 2, pitch - gap - 3, css(key, dark ? 1.25 : 1.04), `rx="2"`));
      if (wide < 3) out.push(`<text x="${(x + 3 * scale).toFixed(1)}" y="${(y + 8 * scale).toFixed(1)}" font-size="${(6 * scale).toFixed(1)}" font-family="sans-serif" fill="${ink}">${letters[Math.floor(roll(0, 35.9))]}</text>`); // prettier-ignore
      x += w + gap;
    }
  return out.join('');
}

const whole = (c: Colour) => rect(0, 0, deskMm, deskMm, css(c));
const all = (count: number, one: (i: number) => string) => Array.from({ length: count }, (_, i) => one(i)).join('');
const middle = deskMm / 2;

const makers: Record<Family, (roll: Roll) => string> = {
  keyboard: (roll) => {
    const w = roll(280, 440);
    return whole(greyish(roll, 40, 235)) + keys(roll, middle - w / 2 + roll(-40, 40), middle - 60 + roll(-30, 30), w);
  },
  laptop: (roll) => {
    const [w, d] = [roll(290, 370), roll(195, 250)];
    const body = greyish(roll, 30, 215);
    const [x, y] = [middle - w / 2, middle - d * 0.9];
    return `${whole(any(roll, 40, 220))}${rect(x, y + d, w, d, css(body), 'rx="9"')}${rect(x, y, w, d, '#111', 'rx="8"')}${rect(x + 8, y + 8, w - 16, d - 20, css(any(roll, 20, 250)))}${rect(x + w * 0.35, y + d * 1.62, w * 0.3, d * 0.3, css(body, 0.93), 'rx="3"')}${keys(roll, x + 14, y + d + 14, w - 28, 0.88)}`; // prettier-ignore
  },
  blinds: (roll) => {
    const pitch = roll(14, 60);
    const c = greyish(roll, 120, 250);
    const upright = roll(0, 1) < 0.3;
    const slats = all(Math.ceil(deskMm / pitch), (i) => rect(0, i * pitch, deskMm, pitch * 0.55, css(c)) + rect(0, (i + 0.55) * pitch, deskMm, pitch * 0.3, css(c, 0.8)) + rect(0, (i + 0.85) * pitch, deskMm, pitch * 0.15, css(c, roll(0.3, 0.6)))); // prettier-ignore
    const cords = all(4, (i) => rect(180 + i * 310 + roll(-20, 20), 0, 2.5, deskMm, css(c, 0.6)));
    return upright ? `<g transform="rotate(90 ${middle} ${middle})">${slats}${cords}</g>` : slats + cords;
  },
  bookshelf: (roll) => {
    const shelf = roll(200, 320);
    const wood: Colour = [roll(120, 230), roll(90, 210), roll(60, 190)];
    let out = whole([30, 24, 20]);
    for (let y = roll(-150, 0); y < deskMm; y += shelf) {
      for (let x = 0; x < deskMm;) {
        const [w, h] = [roll(9, 48), shelf * roll(0.6, 0.93)];
        const c = any(roll);
        out += rect(x, y + shelf - h - 9, w - 0.8, h, css(c)) + (roll(0, 1) < 0.6 ? rect(x, y + shelf - h + roll(4, 30), w - 0.8, roll(6, 50), css(any(roll))) : '') + (w > 14 ? `<text transform="translate(${x + w / 2 - 3} ${y + shelf - h + 20}) rotate(90)" font-size="${roll(7, 13)}" font-family="serif" fill="${c[1] > 130 ? '#222' : '#eee'}">Tides and moorings</text>` : ''); // prettier-ignore
        x += w;
      }
      out += rect(0, y + shelf - 9, deskMm, 18, css(wood));
    }
    return out;
  },
  hob: (roll) => {
    const [w, d] = [roll(290, 600), roll(380, 520)];
    const [x, y] = [middle - w / 2 + roll(-60, 60), middle - d / 2 + roll(-60, 60)];
    const c = greyish(roll, 8, 40);
    const rings = all(4, (i) => `<circle cx="${x + w * (i % 2 ? 0.73 : 0.27)}" cy="${y + d * (i > 1 ? 0.73 : 0.27)}" r="${roll(60, 105) * (w / 600 + 0.2)}" fill="${css(c, roll(0.7, 1.6))}" stroke="${css([150, 150, 150])}" stroke-width="1.4"/>`); // prettier-ignore
    return `${whole(any(roll, 70, 235))}${rect(x, y, w, d, css(c), `rx="6" stroke="#aaa" stroke-width="${roll(0, 5)}"`)}${rings}${all(4, (i) => `<circle cx="${x + w * 0.4 + i * 30}" cy="${y + d - 22}" r="9" fill="#999"/>`)}`;
  },
  sink: (roll) => {
    const metal = roll(0, 1) < 0.65 ? greyish(roll, 130, 205) : greyish(roll, 222, 252);
    const [w, d] = [roll(220, 520), roll(200, 420)];
    const [x, y] = [middle - w / 2, middle - d / 2];
    const round = roll(0.05, 0.3) * Math.min(w, d);
    if (roll(0, 1) < 0.4) {
      // Set into a top of another colour, with a second basin, a tap, or something in it.
      const [top, deep] = [any(roll, 40, 245), roll(0.72, 0.97)];
      const basin = (at: number) => `${rect(at, y, w, d, css(metal, roll(0.95, 1.05)), `rx="${round}" stroke="${css(metal, 1.2)}" stroke-width="${roll(1, 9)}"`)}${rect(at + 16, y + 16, w - 32, d - 32, css(metal, deep), `rx="${round * 0.8}"`)}<circle cx="${at + w / 2}" cy="${y + d / 2}" r="${roll(18, 40)}" fill="${css(metal, 0.45)}"/>`; // prettier-ignore
      const tap = `${rect(middle - 9, y - roll(40, 90), 18, roll(90, 190), css([200, 200, 205]), 'rx="9"')}`;
      const plate = roll(0, 1) < 0.4 ? `<circle cx="${x + w * roll(0.2, 0.8)}" cy="${y + d * roll(0.3, 0.7)}" r="${roll(40, 110)}" fill="${css(greyish(roll, 200, 250))}" stroke="#bbb" stroke-width="3"/>` : ''; // prettier-ignore
      return whole(top) + basin(x) + (roll(0, 1) < 0.5 ? basin(x + w + roll(20, 60)) : '') + plate + tap;
    }
    return `${whole(any(roll, 90, 240))}${rect(x - 30, y - 30, w + roll(60, 380), d + 60, css(metal), 'rx="14"')}${rect(x, y, w, d, css(metal, 0.82), 'rx="38"')}${rect(x + 22, y + 22, w - 44, d - 44, css(metal, 0.95), 'rx="30"')}<circle cx="${middle}" cy="${middle}" r="34" fill="${css(metal, 0.5)}"/>${all(14, (i) => rect(x + w + 50 + i * 22, y, 6, d, css(metal, 0.85)))}`; // prettier-ignore
  },
  floor: (roll) => {
    const [w, h] = [roll(95, 330), roll(95, 330)];
    const a = any(roll, 90, 240);
    const b: Colour = roll(0, 1) < 0.5 ? a : any(roll, 30, 240);
    const gap = roll(2, 8);
    let out = whole(greyish(roll, 60, 225));
    for (let j = 0; j * h < deskMm; j++) for (let i = 0; i * w < deskMm; i++) out += rect(i * w, j * h, w - gap, h - gap, css((i + j) % 2 ? a : b, roll(0.94, 1.06))); // prettier-ignore
    return out;
  },
  carpet: (roll) => {
    const [a, b, c] = [any(roll, 30, 200), any(roll, 30, 220), any(roll, 20, 240)];
    const p = roll(90, 260);
    let out = whole(a) + rect(150, 150, deskMm - 300, deskMm - 300, css(b), `stroke="${css(c)}" stroke-width="${roll(10, 40)}"`) + rect(260, 260, deskMm - 520, deskMm - 520, css(a, 0.9), `stroke="${css(c)}" stroke-width="6"`); // prettier-ignore
    for (let y = 300; y < deskMm - 300; y += p) for (let x = 300; x < deskMm - 300; x += p) out += `<rect x="${x}" y="${y}" width="${p * 0.5}" height="${p * 0.5}" fill="${css(c)}" transform="rotate(45 ${x + p / 4} ${y + p / 4})"/>${rect(x + p * 0.6, y + p * 0.6, p * 0.25, p * 0.25, css(b))}`; // prettier-ignore
    return out;
  },
  window: (roll) => {
    const frame = roll(0, 1) < 0.7 ? greyish(roll, 190, 252) : any(roll, 20, 160);
    const [w, h] = [roll(220, 420), roll(280, 520)];
    if (roll(0, 1) < 0.5) {
      // One window in a wall, with something to see beyond.
      const [x, y, bar] = [middle - w / 2, middle - h / 2, roll(12, 34)];
      const [sky, land] = [[roll(150, 245), roll(180, 248), roll(205, 255)], any(roll, 40, 170)] as const;
      const at = y + h * roll(0.3, 0.85);
      const trees = all(Math.floor(roll(0, 9)), () => `<ellipse cx="${x + w * roll(0.05, 0.95)}" cy="${at}" rx="${roll(8, 50)}" ry="${roll(10, 80)}" fill="${css(land, roll(0.5, 1.2))}"/>`); // prettier-ignore
      const cross = (roll(0, 1) < 0.6 ? rect(middle - bar / 3, y, bar * 0.66, h, css(frame)) : '') + (roll(0, 1) < 0.4 ? rect(x, y + h * roll(0.3, 0.6), w, bar * 0.66, css(frame)) : ''); // prettier-ignore
      return `${whole(any(roll, 90, 245))}${rect(x - bar, y - bar, w + 2 * bar, h + 2 * bar, css(frame))}<svg x="${x}" y="${y}" width="${w}" height="${h}" viewBox="${x} ${y} ${w} ${h}">${rect(x, y, w, h, css(sky))}${trees}${rect(x, at, w, h, css(land))}</svg>${cross}${rect(x - bar * 1.6, y + h + bar, w + bar * 3.2, bar * 0.8, css(frame, 0.9))}`; // prettier-ignore
    }
    let out = whole(frame);
    for (let j = 0; j < 4; j++) for (let i = 0; i < 5; i++) out += rect(40 + i * w, 30 + j * h, w - roll(30, 60), h - roll(30, 60), css([roll(110, 200), roll(150, 225), roll(190, 250)]), `stroke="${css(frame, 0.85)}" stroke-width="5"`); // prettier-ignore
    return out;
  },
  // Invented: cells of any kind in rows, on a plate or all over.
  cells: (roll) => {
    const all = roll(0, 1) < 0.3;
    const [w, d] = all ? [deskMm, deskMm] : [roll(120, 500), roll(90, 380)];
    const [x0, y0] = [middle - w / 2, middle - d / 2];
    const [cw, ch] = [roll(8, all ? 160 : w / 3), roll(8, all ? 160 : d / 3)];
    const gap = roll(0.4, 0.25 * Math.min(cw, ch));
    const [plate, cell] = [any(roll), any(roll)];
    const [shift, round, rim, sign, differ] = [roll(0, 1) < 0.4 ? roll(0, cw) : 0, roll(0, 0.5) * Math.min(cw, ch), roll(0, 1) < 0.5, roll(0, 1), roll(0, 0.25)]; // prettier-ignore
    const ink = css(any(roll));
    let out = whole(any(roll)) + rect(x0 - 8, y0 - 8, w + 16, d + 16, css(plate), `rx="${roll(0, 12)}"`);
    for (let j = 0; (j + 1) * ch <= d; j++)
      for (let i = 0; (i + 1) * cw <= w; i++) {
        const x = x0 + ((i * cw + j * shift) % Math.max(cw, w - cw));
        const [y, k] = [y0 + j * ch, roll(1 - differ, 1 + differ)];
        out += rect(x, y, cw - gap, ch - gap, css(cell, k), `rx="${round}"`);
        if (rim) out += rect(x + 1, y + 1, (cw - gap) * 0.92, (ch - gap) * 0.85, css(cell, k * 1.12), `rx="${round}"`);
        if (sign < 0.4)
          out += `<text x="${x + cw * 0.2}" y="${y + ch * 0.6}" font-size="${Math.min(cw, ch) * 0.4}" font-family="sans-serif" fill="${ink}">${letters[Math.floor(roll(0, 35.9))]}</text>`; // prettier-ignore
        else if (sign < 0.6)
          out += `<circle cx="${x + cw / 2}" cy="${y + ch / 2}" r="${Math.min(cw, ch) * 0.25}" fill="${ink}"/>`;
      }
    return out;
  },
  // Invented: things with a front of fields, knobs and slots.
  panel: (roll) => {
    let out = whole(any(roll));
    const one = (x: number, y: number, w: number, d: number, depth: number): void => {
      const fill = any(roll);
      const kind = roll(0, 1);
      if (kind < 0.25) out += `<ellipse cx="${x + w / 2}" cy="${y + d / 2}" rx="${w / 2}" ry="${d / 2}" fill="${css(fill)}" stroke="${css(fill, 0.6)}" stroke-width="${roll(0, 5)}"/>`; // prettier-ignore
      else out += rect(x, y, w, d, css(fill), `rx="${roll(0, 0.2) * Math.min(w, d)}" stroke="${css(fill, roll(0.5, 1.3))}" stroke-width="${roll(0, 5)}"`); // prettier-ignore
      if (kind > 0.85) for (let k = 2; k < w - 4; k += 9) out += rect(x + k, y + d * 0.1, 4, d * 0.8, css(fill, 0.6));
      else if (depth < 3 && roll(0, 1) < 0.7) {
        const [m, n] = [Math.ceil(roll(0, 3)), Math.ceil(roll(0, 3))];
        for (let i = 0; i < m; i++) for (let j = 0; j < n; j++) if (roll(0, 1) < 0.8) one(x + (w * (i + roll(0.05, 0.25))) / m, y + (d * (j + roll(0.05, 0.25))) / n, (w / m) * roll(0.4, 0.75), (d / n) * roll(0.4, 0.75), depth + 1); // prettier-ignore
      }
    };
    const [w, d] = [roll(150, 500), roll(120, 420)];
    one(middle - w / 2, middle - d / 2, w, d, 0);
    return out;
  },
  bricks: (roll) => {
    const c: Colour = [roll(120, 190), roll(60, 120), roll(45, 100)];
    let out = whole(greyish(roll, 120, 215));
    for (let j = 0; j * 75 < deskMm; j++) for (let i = -1; i * 225 < deskMm; i++) out += rect(i * 225 + (j % 2 ? 112 : 0), j * 75, 215, 65, css(c, roll(0.75, 1.2))); // prettier-ignore
    return out;
  },
  grille: (roll) => {
    const c = greyish(roll, 150, 245);
    const p = roll(22, 70);
    return `${whole([25, 25, 27])}${all(Math.ceil(deskMm / p), (i) => rect(i * p, 120, p * 0.62, deskMm - 240, css(c, roll(0.96, 1.02)), `rx="${p * 0.2}"`))}${rect(0, 110, deskMm, 26, css(c, 0.85))}${rect(0, deskMm - 140, deskMm, 26, css(c, 0.85))}`;
  },
  drawers: (roll) => {
    const c = any(roll, 60, 245);
    const [w, h] = [roll(300, 620), roll(120, 260)];
    let out = whole([c[0] * 0.4, c[1] * 0.4, c[2] * 0.4]);
    for (let j = 0; j * h < deskMm; j++) for (let i = 0; i * w < deskMm; i++) out += rect(i * w, j * h, w - 5, h - 5, css(c, roll(0.97, 1.03))) + rect(i * w + w / 2 - 50, j * h + h * 0.3, 100, 12, '#bbb', 'rx="6"'); // prettier-ignore
    return out;
  },
  parquet: (roll) => {
    const c: Colour = [roll(140, 210), roll(95, 160), roll(55, 110)];
    const [w, l] = [roll(40, 80), roll(200, 340)];
    let out = whole([c[0] * 0.5, c[1] * 0.5, c[2] * 0.5]);
    for (let j = -2; j * w < deskMm + l; j++) for (let i = -2; i < 8; i++) out += `<g transform="translate(${i * l * 1.41} ${j * w * 1.41}) rotate(${(i + 9) % 2 ? 45 : -45})">${rect(0, 0, l, w - 1.5, css(c, roll(0.8, 1.18)))}</g>`; // prettier-ignore
    return out;
  },
};

/** A ground of a family as a picture `deskMm` wide and high. */
export async function groundPicture(family: Family, roll: Roll): Promise<Raster> {
  const size = Math.round(deskMm * pxPerMm);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 ${deskMm} ${deskMm}">${makers[family](roll)}</svg>`;
  const { data, info } = await sharp(Buffer.from(svg)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: 3, data };
}
