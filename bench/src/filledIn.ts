import type { Raster } from '@libretto/core';
import { random } from '@libretto/demo/scene/noise';

/** Size of a field as a share of the page: two words of a line. */
const [fieldWidth, fieldHeight] = [0.22, 0.025];
/** From this share of dark pixels on a field has something in it. */
const written = 0.05;
const darkBelow = 150;

/** Another copy of a form: in some of its fields stand other words, taken from elsewhere on the sheet. */
export function filledIn(form: Raster, fields: number, seed: number): Raster {
  const { width, height, channels, data } = form;
  const copy = new Uint8Array(data);
  const next = random(seed);
  const w = Math.round(fieldWidth * width);
  const h = Math.round(fieldHeight * height);
  const place = () => [Math.floor(next() * (width - w)), Math.floor(next() * (height - h))] as const;
  const isWritten = ([x0, y0]: readonly [number, number]) => {
    let dark = 0;
    for (let y = y0; y < y0 + h; y++) for (let x = x0; x < x0 + w; x++) if (data[(y * width + x) * channels]! < darkBelow) dark++;
    return dark > written * w * h;
  };
  for (let changed = 0, tries = 0; changed < fields && tries < 5000; tries++) {
    const [to, from] = [place(), place()];
    if (Math.abs(to[1] - from[1]) < h || !isWritten(to) || !isWritten(from)) continue;
    for (let y = 0; y < h; y++) {
      const start = ((from[1] + y) * width + from[0]) * channels;
      copy.set(data.subarray(start, start + w * channels), ((to[1] + y) * width + to[0]) * channels);
    }
    changed++;
  }
  return { ...form, data: copy };
}
