import { createRaster, type Raster } from '@libretto/core';
import { deskTexture } from './deskTexture';
import { lay } from './lay';
import { lightGrid } from './light';
import { random } from './noise';
import { pinhole } from './pinhole';
import { Row } from './row';
import type { Lighting, Scene, TruePage } from './scene';
import { truth } from './truth';

const encoded = Uint8ClampedArray.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
});

/** Renders a scene as a phone would photograph it: perspective, paper's bend, light, shadow, desk and sensor noise. */
export function photograph(scene: Scene, width: number, height: number): { photo: Raster; pages: TruePage[] } {
  const photo = createRaster(width, height, 3);
  const camera = pinhole(scene.camera, width, height);
  const pxPerMm = (scene.camera.focal * Math.max(width, height)) / scene.camera.distance;
  const laid = scene.sheets.map((sheet) => lay(sheet, camera, pxPerMm, width, height));
  const desk = deskTexture(scene.desk);
  const light = lightGrid(scene.light, camera, width, height);
  const grain = grainOf(scene.seed);
  const next = random(scene.seed);
  const row = new Row(width);
  // Shot noise grows with the light.
  const gain = Float64Array.from(encoded, (v) => scene.noise * (0.55 + v / 280));
  for (let y = 0; y < height; y++) {
    row.begin(y, camera, light.row(y));
    for (let k = laid.length - 1; k >= 0; k--) if (y >= laid[k]!.top && y <= laid[k]!.bottom) laid[k]!.draw(row, scene.light);
    desk.draw(row);
    expose(row, photo.data, y, scene.light.colour, gain, grain, (next() * grainCount) | 0);
  }
  return { photo, pages: scene.sheets.flatMap((sheet) => truth(sheet, camera)) };
}

/** A row's light through the lens' colours onto the sensor; `gain` is how strong the noise is at each level of `encoded`. */
function expose(
  row: Row,
  out: Raster['data'],
  y: number,
  colour: Lighting['colour'],
  gain: Float64Array,
  grain: Float32Array,
  from: number,
): void {
  const { r, g, b, level, shade, width } = row;
  const [lr, lg, lb] = colour;
  for (let x = 0, p = y * width * 3, q = from; x < width; x++, p += 3, q += 3) {
    const light = level[x]! * shade[x]! * 4096;
    let i = index(r[x]! * light * lr);
    out[p] = encoded[i]! + grain[q & grainMask]! * gain[i]!;
    i = index(g[x]! * light * lg);
    out[p + 1] = encoded[i]! + grain[(q + 1) & grainMask]! * gain[i]!;
    i = index(b[x]! * light * lb);
    out[p + 2] = encoded[i]! + grain[(q + 2) & grainMask]! * gain[i]!;
  }
}

function index(v: number): number {
  const i = v | 0;
  return i < 0 ? 0 : i > 4096 ? 4096 : i;
}

const grainCount = 1 << 16;
const grainMask = grainCount - 1;
const grains = new Map<number, Float32Array>();

/** Noise of deviation 1, ready made: the sum of three uniforms is near enough to normal. */
function grainOf(seed: number): Float32Array {
  const key = seed & 3;
  let grain = grains.get(key);
  if (!grain) {
    const next = random(key + 71);
    grain = Float32Array.from({ length: grainCount }, () => (next() + next() + next() - 1.5) * 2);
    grains.set(key, grain);
  }
  return grain;
}
