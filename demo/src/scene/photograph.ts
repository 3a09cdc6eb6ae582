import { createRaster, shrinkToEdge, type Raster } from '@libretto/core';
import { bendTable } from './bend';
import { deskColour, type Desk } from './desk';
import { random } from './noise';
import { pinhole } from './pinhole';
import type { LaidSheet, Lighting, Scene, TruePage } from './scene';
import { truth } from './truth';

const linear = Float32Array.from({ length: 256 }, (_, i) =>
  i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4,
);
const encoded = Uint8ClampedArray.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
});

/** Light is smooth: it is worked out at every eighth pixel and interpolated. */
const lightStep = 8;
const paperReflects = 0.84;
/** How far a sheet's own shadow reaches beyond its edge, and how dark it is there. */
const shadowMm = 3.5;
const usualShadow = 0.38;

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

/** A row of the picture being made: what each of its rays meets, from the top sheet down to the desk. */
class Row {
  /** Where rays start, mm; how the first one goes, and what each next one goes further. */
  eye: readonly [number, number, number] = [0, 0, 0];
  readonly first = new Float64Array(3);
  readonly further = new Float64Array(3);
  /** Where each would meet the desk, mm. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** 1 where it has met something. */
  readonly met: Uint8Array;
  /** What that reflects, linear. */
  readonly r: Float64Array;
  readonly g: Float64Array;
  readonly b: Float64Array;
  /** The light there, and what shadows leave of it, 0..1. */
  readonly level: Float64Array;
  readonly shade: Float64Array;

  constructor(readonly width: number) {
    const numbers = () => new Float64Array(width);
    [this.x, this.y, this.r, this.g] = [numbers(), numbers(), numbers(), numbers()];
    [this.b, this.level, this.shade] = [numbers(), numbers(), numbers()];
    this.met = new Uint8Array(width);
  }

  begin(y: number, camera: ReturnType<typeof pinhole>, light: Float32Array): void {
    const { first, further, x: dx, y: dy, width } = this;
    camera.ray(0, 0, first);
    camera.ray(1, 0, further);
    for (let i = 0; i < 3; i++) further[i]! -= first[i]!;
    camera.ray(0, y, first);
    const [x0, y0, z0] = [first[0]!, first[1]!, first[2]!];
    const [ux, uy, uz] = [further[0]!, further[1]!, further[2]!];
    const [ex, ey, ez] = (this.eye = camera.eye);
    for (let x = 0; x < width; x++) {
      const t = -ez / (z0 + uz * x);
      dx[x] = ex + (x0 + ux * x) * t;
      dy[x] = ey + (y0 + uy * x) * t;
    }
    this.level.set(light);
    this.shade.fill(1);
    this.met.fill(0);
  }
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

/** A sheet made ready for one picture: where in it it can be seen, and what a ray meets there. */
function lay(sheet: LaidSheet, camera: ReturnType<typeof pinhole>, pxPerMm: number, width: number, height: number) {
  const { height: heightAt, along, reach } = bendTable(sheet);
  const flat = sheet.bend.kind === 'flat';
  const { shadow = usualShadow } = sheet;
  const c = Math.cos((sheet.angle * Math.PI) / 180);
  const s = Math.sin((sheet.angle * Math.PI) / 180);
  const half = sheet.heightMm / 2;
  const picture = forScale(sheet.picture, (pxPerMm * sheet.widthMm) / sheet.picture.width);
  const highest = flat ? 0 : Math.max(...Array.from({ length: 41 }, (_, i) => heightAt((i / 40) * reach)));
  const seen = [-1, 1].flatMap((u) =>
    [-1, 1].flatMap((v) =>
      [0, highest].map((z) => {
        const du = u * (reach + shadowMm + 1);
        const dv = v * (half + shadowMm + 1);
        return camera.see(sheet.xMm + c * du - s * dv, sheet.yMm + s * du + c * dv, z);
      }),
    ),
  );
  const xs = seen.map((p) => p[0]);
  const ys = seen.map((p) => p[1]);
  const left = Math.ceil(Math.max(0, Math.min(...xs)));
  const right = Math.floor(Math.min(width - 1, Math.max(...xs)));
  const book = sheet.bend.kind === 'book';
  const { xMm, yMm, widthMm, heightMm } = sheet;
  return {
    top: Math.max(0, Math.min(...ys)),
    bottom: Math.min(height - 1, Math.max(...ys)),
    /** Draws what a row's rays meet of the sheet; beside it only its shadow. */
    draw(row: Row, lighting: Lighting): void {
      const { first, further, x: dx, y: dy, met, level, shade } = row;
      const [ex, ey, ez] = row.eye;
      const [x0, y0, z0] = [first[0]!, first[1]!, first[2]!];
      const [ux, uy, uz] = [further[0]!, further[1]!, further[2]!];
      for (let x = left; x <= right; x++) {
        if (met[x]) continue;
        let u = c * (dx[x]! - xMm) + s * (dy[x]! - yMm);
        let v = -s * (dx[x]! - xMm) + c * (dy[x]! - yMm);
        let z = 0;
        if (!flat) {
          z = Math.abs(u) < widthMm ? heightAt(u) : 0;
          for (let i = 0; i < 8; i++) {
            const t = (z - ez) / (z0 + uz * x);
            const px = ex + (x0 + ux * x) * t - xMm;
            const py = ey + (y0 + uy * x) * t - yMm;
            u = c * px + s * py;
            v = -s * px + c * py;
            const before = z;
            z = Math.abs(u) < widthMm ? heightAt(u) : 0;
            if (Math.abs(z - before) < 1e-5) break;
          }
        }
        const over = Math.max(Math.abs(u) - reach, Math.abs(v) - half);
        if (over > 0) {
          if (over < shadowMm) shade[x] = Math.min(shade[x]!, 1 - shadow * (1 - over / shadowMm));
          continue;
        }
        met[x] = 1;
        const across = flat ? u : along(u);
        sample(picture, (across / widthMm + 0.5) * picture.width - 0.5, (v / heightMm + 0.5) * picture.height - 0.5, row, x);
        shade[x] = book ? 1 - 0.5 * Math.exp(-Math.abs(u) / 7) : 1;
        const slope = flat ? 0 : (heightAt(u + 0.5) - heightAt(u - 0.5)) * (c > 0 ? 1 : -1);
        if (z || slope) level[x] = lightAt(lighting, xMm + c * u - s * v, yMm + s * u + c * v, z, slope);
      }
    },
  };
}

/** Lamp by inverse square and cosine, with the paper's slope towards it; ambient light; the phone's shadow. */
function lightAt(light: Lighting, x: number, y: number, z: number, slope: number): number {
  const lx = light.lamp.x - x;
  const ly = light.lamp.y - y;
  const lz = light.lamp.z - z;
  const d2 = lx * lx + ly * ly + lz * lz;
  const cosine = Math.max(0, (lz - slope * lx) / Math.sqrt(d2 * (1 + slope * slope)));
  let lamp = (light.lamp.power * cosine * light.lamp.z * light.lamp.z) / d2;
  const { shadow } = light;
  if (shadow) {
    const c = Math.cos((shadow.angle * Math.PI) / 180);
    const s = Math.sin((shadow.angle * Math.PI) / 180);
    const dx = x - shadow.x;
    const dy = y - shadow.y;
    const inside = Math.min(shadow.width / 2 - Math.abs(c * dx + s * dy), shadow.height / 2 - Math.abs(-s * dx + c * dy));
    const k = Math.max(0, Math.min(1, 0.5 + inside / shadow.softMm));
    lamp *= 1 - shadow.depth * k * k * (3 - 2 * k);
  }
  return light.ambient + lamp;
}

/** The light on the desk, a row of the picture at a time. */
function lightGrid(light: Lighting, camera: ReturnType<typeof pinhole>, width: number, height: number) {
  const across = Math.ceil(width / lightStep) + 1;
  const ray = new Float64Array(3);
  const lines = new Map<number, Float32Array>();
  const line = (j: number): Float32Array => {
    let known = lines.get(j);
    if (!known) {
      known = Float32Array.from({ length: across }, (_, i) => {
        camera.ray(i * lightStep, j * lightStep, ray);
        const t = -camera.eye[2] / ray[2]!;
        return lightAt(light, camera.eye[0] + ray[0]! * t, camera.eye[1] + ray[1]! * t, 0, 0);
      });
      lines.delete(j - 2);
      lines.set(j, known);
    }
    return known;
  };
  const out = new Float32Array(width);
  return {
    row(y: number): Float32Array {
      const j = Math.floor(y / lightStep);
      const above = line(j);
      const below = line(Math.min(j + 1, Math.ceil(height / lightStep)));
      const f = y / lightStep - j;
      for (let i = 0, x = 0; x < width; i++) {
        const a = above[i]! + (below[i]! - above[i]!) * f;
        const b = above[i + 1]! + (below[i + 1]! - above[i + 1]!) * f;
        for (let g = 0; g < lightStep && x < width; g++, x++) out[x] = a + (b - a) * (g / lightStep);
      }
      return out;
    },
  };
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

/** A desk as a picture, so that a film of it need not grow its wood anew for each frame. */
const deskPxPerMm = 2;
const deskReachMm = 320;
const desks = new Map<Desk, ReturnType<typeof paintDesk>>();

function deskTexture(desk: Desk) {
  const known = desks.get(desk) ?? paintDesk(desk);
  desks.set(desk, known);
  return known;
}

function paintDesk(desk: Desk) {
  const size = 2 * deskReachMm * deskPxPerMm;
  const paint = new Float32Array(size * size * 3);
  const done = new Uint8Array(size * size);
  const colour: [number, number, number] = [0, 0, 0];
  const put = (i: number, j: number): number => {
    const q = j * size + i;
    if (!done[q]) {
      deskColour(desk, i / deskPxPerMm - deskReachMm, j / deskPxPerMm - deskReachMm, colour);
      paint.set(colour, q * 3);
      done[q] = 1;
    }
    return q * 3;
  };
  return {
    /** Draws the desk where a row's rays have met nothing. */
    draw({ width, x, y, met, r, g, b: blue }: Row): void {
      for (let k = 0; k < width; k++) {
        if (met[k]) continue;
        const px = (x[k]! + deskReachMm) * deskPxPerMm;
        const py = (y[k]! + deskReachMm) * deskPxPerMm;
        if (!(px >= 0 && py >= 0 && px < size - 1 && py < size - 1)) {
          deskColour(desk, x[k]!, y[k]!, colour);
          r[k] = colour[0];
          g[k] = colour[1];
          blue[k] = colour[2];
          continue;
        }
        const i = px | 0;
        const j = py | 0;
        const fx = px - i;
        const fy = py - j;
        const a = put(i, j);
        const b = put(i + 1, j);
        const c = put(i, j + 1);
        const d = put(i + 1, j + 1);
        const w11 = fx * fy;
        const w10 = fx - w11;
        const w01 = fy - w11;
        const w00 = 1 - fx - w01;
        r[k] = paint[a]! * w00 + paint[b]! * w10 + paint[c]! * w01 + paint[d]! * w11;
        g[k] = paint[a + 1]! * w00 + paint[b + 1]! * w10 + paint[c + 1]! * w01 + paint[d + 1]! * w11;
        blue[k] = paint[a + 2]! * w00 + paint[b + 2]! * w10 + paint[c + 2]! * w01 + paint[d + 2]! * w11;
      }
    },
  };
}

const smaller = new WeakMap<Raster, Raster[]>();

/** The sheet's picture halved until it is little larger than it will be seen, so that print does not alias. */
function forScale(picture: Raster, scale: number): Raster {
  const levels = smaller.get(picture) ?? [picture];
  smaller.set(picture, levels);
  const level = Math.max(0, Math.min(4, Math.floor(Math.log2(1 / scale) + 0.35)));
  while (levels.length <= level) {
    const last = levels[levels.length - 1]!;
    levels.push(shrinkToEdge(last, Math.max(8, Math.round(Math.max(last.width, last.height) / 2))));
  }
  return levels[level]!;
}

/** Bilinear, into linear reflectance. */
function sample(picture: Raster, x: number, y: number, row: Row, at: number): void {
  const { width, height, channels, data } = picture;
  const cx = x < 0 ? 0 : x > width - 1.001 ? width - 1.001 : x;
  const cy = y < 0 ? 0 : y > height - 1.001 ? height - 1.001 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = cx - x0;
  const fy = cy - y0;
  const p = (y0 * width + x0) * channels;
  const right = p + (x0 < width - 1 ? channels : 0);
  const step = y0 < height - 1 ? width * channels : 0;
  const w11 = fx * fy * paperReflects;
  const w10 = fx * paperReflects - w11;
  const w01 = fy * paperReflects - w11;
  const w00 = paperReflects - fx * paperReflects - w01;
  const q = right + step;
  const below = p + step;
  row.r[at] = linear[data[p]!]! * w00 + linear[data[right]!]! * w10 + linear[data[below]!]! * w01 + linear[data[q]!]! * w11;
  row.g[at] =
    linear[data[p + 1]!]! * w00 + linear[data[right + 1]!]! * w10 + linear[data[below + 1]!]! * w01 + linear[data[q + 1]!]! * w11;
  row.b[at] =
    linear[data[p + 2]!]! * w00 + linear[data[right + 2]!]! * w10 + linear[data[below + 2]!]! * w01 + linear[data[q + 2]!]! * w11;
}
