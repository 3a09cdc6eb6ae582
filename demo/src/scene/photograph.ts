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
  const [ex, ey, ez] = camera.eye;
  const [r0, c0] = [new Float64Array(3), new Float64Array(3)];
  camera.ray(0, 0, r0);
  camera.ray(1, 0, c0);
  const [ux, uy, uz] = [c0[0]! - r0[0]!, c0[1]! - r0[1]!, c0[2]! - r0[2]!];
  const [lr, lg, lb] = scene.light.colour;
  const out = photo.data;
  const hit = { r: 0, g: 0, b: 0, shade: 1, z: 0, slope: 0, x: 0, y: 0 };
  for (let y = 0; y < height; y++) {
    camera.ray(0, y, r0);
    const rowLight = light.row(y);
    const here = laid.filter((l) => y >= l.top && y <= l.bottom);
    let g = (next() * grainCount) | 0;
    for (let x = 0, p = y * width * 3; x < width; x++, p += 3) {
      const rx = r0[0]! + ux * x;
      const ry = r0[1]! + uy * x;
      const rz = r0[2]! + uz * x;
      const t = -ez / rz;
      const dx = ex + rx * t;
      const dy = ey + ry * t;
      let level = rowLight[x]!;
      let found = false;
      let shade = 1;
      for (let k = here.length - 1; k >= 0 && !found; k--) {
        const sheet = here[k]!;
        if (x < sheet.left || x > sheet.right) continue;
        found = sheet.at(ex, ey, ez, rx, ry, rz, dx, dy, hit);
        shade = Math.min(shade, hit.shade);
      }
      if (found) {
        shade = hit.shade;
        if (hit.z || hit.slope) level = lightAt(scene.light, hit.x, hit.y, hit.z, hit.slope);
      } else desk.at(dx, dy, hit);
      level *= shade;
      const noise = scene.noise;
      // Shot noise grows with the light.
      let v = encoded[clampIndex(hit.r * level * lr)]!;
      out[p] = v + grain[g++ & grainMask]! * noise * (0.55 + v / 280);
      v = encoded[clampIndex(hit.g * level * lg)]!;
      out[p + 1] = v + grain[g++ & grainMask]! * noise * (0.55 + v / 280);
      v = encoded[clampIndex(hit.b * level * lb)]!;
      out[p + 2] = v + grain[g++ & grainMask]! * noise * (0.55 + v / 280);
    }
  }
  return { photo, pages: scene.sheets.flatMap((sheet) => truth(sheet, camera)) };
}

function clampIndex(v: number): number {
  const i = (v * 4096) | 0;
  return i < 0 ? 0 : i > 4096 ? 4096 : i;
}

interface Hit {
  r: number;
  g: number;
  b: number;
  /** Shadow, 0..1. */
  shade: number;
  /** Height above the desk and slope there. */
  z: number;
  slope: number;
  x: number;
  y: number;
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
  return {
    left: Math.max(0, Math.min(...xs)),
    right: Math.min(width - 1, Math.max(...xs)),
    top: Math.max(0, Math.min(...ys)),
    bottom: Math.min(height - 1, Math.max(...ys)),
    /** What a ray meets; `dx, dy` is where it would meet the desk. Beside the sheet only its shadow is written. */
    at(ex: number, ey: number, ez: number, rx: number, ry: number, rz: number, dx: number, dy: number, hit: Hit): boolean {
      let u = c * (dx - sheet.xMm) + s * (dy - sheet.yMm);
      let v = -s * (dx - sheet.xMm) + c * (dy - sheet.yMm);
      let z = 0;
      if (!flat) {
        z = Math.abs(u) < sheet.widthMm ? heightAt(u) : 0;
        for (let i = 0; i < 8; i++) {
          const t = (z - ez) / rz;
          const px = ex + rx * t - sheet.xMm;
          const py = ey + ry * t - sheet.yMm;
          u = c * px + s * py;
          v = -s * px + c * py;
          z = Math.abs(u) < sheet.widthMm ? heightAt(u) : 0;
        }
      }
      const over = Math.max(Math.abs(u) - reach, Math.abs(v) - half);
      if (over > 0) {
        hit.shade = over < shadowMm ? 1 - shadow * (1 - over / shadowMm) : 1;
        return false;
      }
      sample(picture, ((flat ? u : along(u)) / sheet.widthMm + 0.5) * picture.width - 0.5, (v / sheet.heightMm + 0.5) * picture.height - 0.5, hit); // prettier-ignore
      hit.z = z;
      hit.slope = flat ? 0 : (heightAt(u + 0.5) - heightAt(u - 0.5)) * (c > 0 ? 1 : -1);
      hit.shade = sheet.bend.kind === 'book' ? 1 - 0.5 * Math.exp(-Math.abs(u) / 7) : 1;
      hit.x = sheet.xMm + c * u - s * v;
      hit.y = sheet.yMm + s * u + c * v;
      return true;
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
      for (let x = 0; x < width; x++) {
        const i = (x / lightStep) | 0;
        const g = x / lightStep - i;
        const a = above[i]! + (below[i]! - above[i]!) * f;
        const b = above[i + 1]! + (below[i + 1]! - above[i + 1]!) * f;
        out[x] = a + (b - a) * g;
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
    at(x: number, y: number, hit: Hit): void {
      const px = (x + deskReachMm) * deskPxPerMm;
      const py = (y + deskReachMm) * deskPxPerMm;
      if (!(px >= 0 && py >= 0 && px < size - 1 && py < size - 1)) {
        deskColour(desk, x, y, colour);
        hit.r = colour[0];
        hit.g = colour[1];
        hit.b = colour[2];
        return;
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
      hit.r = paint[a]! * w00 + paint[b]! * w10 + paint[c]! * w01 + paint[d]! * w11;
      hit.g = paint[a + 1]! * w00 + paint[b + 1]! * w10 + paint[c + 1]! * w01 + paint[d + 1]! * w11;
      hit.b = paint[a + 2]! * w00 + paint[b + 2]! * w10 + paint[c + 2]! * w01 + paint[d + 2]! * w11;
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
function sample(picture: Raster, x: number, y: number, hit: Hit): void {
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
  const r = p + step;
  hit.r = linear[data[p]!]! * w00 + linear[data[right]!]! * w10 + linear[data[r]!]! * w01 + linear[data[q]!]! * w11;
  hit.g =
    linear[data[p + 1]!]! * w00 + linear[data[right + 1]!]! * w10 + linear[data[r + 1]!]! * w01 + linear[data[q + 1]!]! * w11;
  hit.b =
    linear[data[p + 2]!]! * w00 + linear[data[right + 2]!]! * w10 + linear[data[r + 2]!]! * w01 + linear[data[q + 2]!]! * w11;
}
