import { createRaster, type Point, type Raster } from '@libretto/core';
import { deskColour, type Desk } from './desk';
import { random } from './noise';

/** How a sheet stands off the desk, as a height in mm over the distance from its middle across it, in mm. */
export type Bend = { kind: 'flat' } | { kind: 'book'; heightMm: number; reachMm: number } | { kind: 'curl'; heightMm: number };

/** A piece of paper on the desk. */
export interface LaidSheet {
  id: string;
  /** The flat page, sRGB. */
  picture: Raster;
  widthMm: number;
  heightMm: number;
  /** Where its middle lies, mm. */
  xMm: number;
  yMm: number;
  /** Degrees clockwise seen from above. */
  angle: number;
  bend: Bend;
  /** Its two halves are pages of their own. */
  spread?: boolean;
}

export interface Camera {
  /** What it looks at, mm. */
  at: Point;
  /** Distance from there, mm. */
  distance: number;
  /** Degrees away from straight down, and the direction of that lean. */
  tilt: number;
  azimuth: number;
  /** Degrees by which the phone is turned about its axis. */
  roll: number;
  /** Focal length as a share of the longer side; phones have about 0.75. */
  focal: number;
}

export interface Lighting {
  /** Even light from all over. */
  ambient: number;
  /** A lamp: where it hangs (mm), how bright. */
  lamp: { x: number; y: number; z: number; power: number };
  /** Red, green, blue of the light. */
  colour: [number, number, number];
  /** The phone's and hand's shadow: a soft-edged rectangle (mm), how dark 0..1. */
  shadow?: { x: number; y: number; width: number; height: number; angle: number; softMm: number; depth: number };
}

export interface Scene {
  desk: Desk;
  sheets: readonly LaidSheet[];
  camera: Camera;
  light: Lighting;
  /** Standard deviation of the sensor's noise at mid grey, 0..255. */
  noise: number;
  seed: number;
}

export interface TruePage {
  id: string;
  /** Corners top-left, top-right, bottom-right, bottom-left of the page in its own sense, photo pixels. */
  quad: Point[];
  /** True outline, clockwise from top-left, 20 points a side. */
  polygon: Point[];
  size_mm: [number, number];
  /** Degrees clockwise by which the text is turned in the photo, to the nearest quarter. */
  rotation: number;
}

const linear = Float32Array.from({ length: 256 }, (_, i) =>
  i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4,
);
const encoded = Uint8ClampedArray.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
});

/** The camera as a pinhole: where a ray through a pixel starts and goes, and where a point in space is seen. */
export function pinhole(camera: Camera, width: number, height: number) {
  const rad = Math.PI / 180;
  const tilt = camera.tilt * rad;
  const azimuth = camera.azimuth * rad;
  const eye = [
    camera.at[0] + camera.distance * Math.sin(tilt) * Math.cos(azimuth),
    camera.at[1] + camera.distance * Math.sin(tilt) * Math.sin(azimuth),
    camera.distance * Math.cos(tilt),
  ] as const;
  const forward = [
    (camera.at[0] - eye[0]) / camera.distance,
    (camera.at[1] - eye[1]) / camera.distance,
    -eye[2] / camera.distance,
  ] as const;
  // Screen right lies in the desk's plane; y runs down the desk like the picture's rows.
  const flatRight = normal(Math.abs(forward[2]) > 0.999999 ? [1, 0, 0] : tiltedRight(forward));
  // The desk: x to the right, y down, z up at the viewer.
  const flatDown = crossOf(flatRight, forward);
  const c = Math.cos(camera.roll * rad);
  const s = Math.sin(camera.roll * rad);
  const right = [0, 1, 2].map((i) => c * flatRight[i]! + s * flatDown[i]!);
  const down = [0, 1, 2].map((i) => -s * flatRight[i]! + c * flatDown[i]!);
  const f = camera.focal * Math.max(width, height);
  const cx = (width - 1) / 2;
  const cy = (height - 1) / 2;
  return {
    eye,
    ray(x: number, y: number, out: Float64Array): void {
      const u = (x - cx) / f;
      const v = (y - cy) / f;
      for (let i = 0; i < 3; i++) out[i] = forward[i]! + u * right[i]! + v * down[i]!;
    },
    see(x: number, y: number, z: number): Point {
      const d = [x - eye[0], y - eye[1], z - eye[2]];
      const depth = d[0]! * forward[0] + d[1]! * forward[1] + d[2]! * forward[2];
      const u = d[0]! * right[0]! + d[1]! * right[1]! + d[2]! * right[2]!;
      const v = d[0]! * down[0]! + d[1]! * down[1]! + d[2]! * down[2]!;
      return [cx + (f * u) / depth, cy + (f * v) / depth];
    },
  };
}

/** Among the directions square to the view, the one nearest to the desk's own x axis. */
function tiltedRight(forward: readonly number[]): number[] {
  const along = forward[0]!;
  return [1 - along * forward[0]!, -along * forward[1]!, -along * forward[2]!];
}

function crossOf(a: readonly number[], b: readonly number[]): number[] {
  return [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!];
}

function normal(v: number[]): number[] {
  const l = Math.hypot(...v);
  return v.map((x) => x / l);
}

/** Height of a bent sheet at `u` mm from its middle, and the arc length along it. */
function bendTable(sheet: LaidSheet) {
  const half = sheet.widthMm / 2;
  const { bend } = sheet;
  const height = (u: number): number => {
    if (bend.kind === 'flat') return 0;
    if (bend.kind === 'curl') return bend.heightMm * (u / half) ** 2;
    const s = Math.abs(u) / bend.reachMm;
    return bend.heightMm * s * Math.exp(1 - s);
  };
  // From position above the desk to distance along the paper, symmetrical about the middle.
  const step = 0.5;
  const n = Math.ceil(half / step) + 2;
  const arc = new Float32Array(n);
  for (let i = 1; i < n; i++) arc[i] = arc[i - 1]! + Math.hypot(step, height(i * step) - height((i - 1) * step));
  const along = (u: number): number => {
    const p = Math.abs(u) / step;
    const i = Math.min(n - 2, Math.floor(p));
    return Math.sign(u) * (arc[i]! + (arc[i + 1]! - arc[i]!) * (p - i));
  };
  // The paper keeps its length, so a bent one reaches less far.
  let reach = half;
  if (bend.kind !== 'flat') for (let k = 0; k < 30; k++) reach -= Math.abs(along(reach)) - half;
  return { height, along, reach };
}

/** Renders a scene as a phone would photograph it: perspective, paper's bend, light, shadow, desk, lens softness and sensor noise. */
export function photograph(scene: Scene, width: number, height: number): { photo: Raster; pages: TruePage[] } {
  const photo = createRaster(width, height, 3);
  const camera = pinhole(scene.camera, width, height);
  const { light } = scene;
  const laid = scene.sheets.map((sheet) => ({
    sheet,
    ...bendTable(sheet),
    c: Math.cos((sheet.angle * Math.PI) / 180),
    s: Math.sin((sheet.angle * Math.PI) / 180),
  }));
  const ray = new Float64Array(3);
  const colour: [number, number, number] = [0, 0, 0];
  const rows = new Float32Array(width * 3);
  const next = random(scene.seed);
  const shadow = light.shadow && {
    ...light.shadow,
    c: Math.cos((light.shadow.angle * Math.PI) / 180),
    s: Math.sin((light.shadow.angle * Math.PI) / 180),
  };
  const [ex, ey, ez] = camera.eye;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      camera.ray(x, y, ray);
      const t0 = -ez / ray[2]!;
      let px = ex + ray[0]! * t0;
      let py = ey + ray[1]! * t0;
      let pz = 0;
      let slope = 0;
      let hit = false;
      let shade = 1;
      for (let k = laid.length - 1; k >= 0 && !hit; k--) {
        const { sheet, height: heightAt, along, reach, c, s } = laid[k]!;
        let z = 0;
        let u = 0;
        let v = 0;
        for (let i = 0; i < (sheet.bend.kind === 'flat' ? 1 : 9); i++) {
          const t = (z - ez) / ray[2]!;
          const dx = ex + ray[0]! * t - sheet.xMm;
          const dy = ey + ray[1]! * t - sheet.yMm;
          u = c * dx + s * dy;
          v = -s * dx + c * dy;
          z = Math.abs(u) < sheet.widthMm ? heightAt(u) : 0;
        }
        if (Math.abs(u) > reach || Math.abs(v) > sheet.heightMm / 2) {
          // The paper's own shadow on the desk.
          const over = Math.max(Math.abs(u) - reach, Math.abs(v) - sheet.heightMm / 2);
          if (over < 3.5) shade = Math.min(shade, 0.62 + 0.38 * (over / 3.5));
          continue;
        }
        hit = true;
        const { picture } = sheet;
        const ix = (along(u) / sheet.widthMm + 0.5) * picture.width - 0.5;
        const iy = (v / sheet.heightMm + 0.5) * picture.height - 0.5;
        sample(picture, ix, iy, colour);
        pz = z;
        px = sheet.xMm + c * u - s * v;
        py = sheet.yMm + s * u + c * v;
        shade = 1;
        if (sheet.bend.kind !== 'flat') {
          slope = (heightAt(u + 0.5) - heightAt(u - 0.5)) * (c > 0 ? 1 : -1);
          if (sheet.bend.kind === 'book') shade = 1 - 0.5 * Math.exp(-Math.abs(u) / 7);
        }
      }
      if (!hit) deskColour(scene.desk, px, py, colour);
      // Lamp: inverse square and cosine, with the paper's slope towards it.
      const lx = light.lamp.x - px;
      const ly = light.lamp.y - py;
      const lz = light.lamp.z - pz;
      const d2 = lx * lx + ly * ly + lz * lz;
      const cosine = Math.max(0, (lz - slope * lx) / Math.sqrt(d2 * (1 + slope * slope)));
      let lamp = (light.lamp.power * cosine * light.lamp.z * light.lamp.z) / d2;
      if (shadow) {
        const dx = px - shadow.x;
        const dy = py - shadow.y;
        const inside = Math.min(
          shadow.width / 2 - Math.abs(shadow.c * dx + shadow.s * dy),
          shadow.height / 2 - Math.abs(-shadow.s * dx + shadow.c * dy),
        );
        const k = Math.max(0, Math.min(1, 0.5 + inside / shadow.softMm));
        lamp *= 1 - shadow.depth * k * k * (3 - 2 * k);
      }
      const level = (light.ambient + lamp) * shade;
      const q = x * 3;
      rows[q] = colour[0] * level * light.colour[0];
      rows[q + 1] = colour[1] * level * light.colour[1];
      rows[q + 2] = colour[2] * level * light.colour[2];
    }
    const out = photo.data;
    const strength = scene.noise;
    for (let q = 0, p = y * width * 3; q < width * 3; q++, p++) {
      const v = encoded[Math.min(4096, Math.max(0, (rows[q]! * 4096) | 0))]!;
      // Shot noise: sum of three uniforms is near enough to normal.
      out[p] = v + (next() + next() + next() - 1.5) * 2 * strength * (0.55 + v / 280);
    }
  }
  const pages = scene.sheets.flatMap((sheet) => truth(sheet, camera));
  return { photo, pages };
}

function truth(sheet: LaidSheet, camera: ReturnType<typeof pinhole>): TruePage[] {
  const { height, reach } = bendTable(sheet);
  const c = Math.cos((sheet.angle * Math.PI) / 180);
  const s = Math.sin((sheet.angle * Math.PI) / 180);
  const see = (u: number, v: number) => camera.see(sheet.xMm + c * u - s * v, sheet.yMm + s * u + c * v, height(u));
  const h = sheet.heightMm / 2;
  const page = (from: number, to: number, id: string, widthMm: number): TruePage => {
    const quad = [see(from, -h), see(to, -h), see(to, h), see(from, h)];
    const side = (f: (t: number) => Point) => Array.from({ length: 20 }, (_, i) => f(i / 20));
    const polygon = [
      ...side((t) => see(from + (to - from) * t, -h)),
      ...side((t) => see(to, -h + 2 * h * t)),
      ...side((t) => see(to + (from - to) * t, h)),
      ...side((t) => see(from, h - 2 * h * t)),
    ];
    const angle = (Math.atan2(quad[1]![1] - quad[0]![1], quad[1]![0] - quad[0]![0]) * 180) / Math.PI;
    const round = (p: Point): Point => [Math.round(p[0] * 100) / 100, Math.round(p[1] * 100) / 100];
    return {
      id,
      quad: quad.map(round),
      polygon: polygon.map(round),
      size_mm: [widthMm, sheet.heightMm],
      rotation: (Math.round(angle / 90) * 90 + 360) % 360,
    };
  };
  if (!sheet.spread) return [page(-reach, reach, sheet.id, sheet.widthMm)];
  return [page(-reach, 0, `${sheet.id}-left`, sheet.widthMm / 2), page(0, reach, `${sheet.id}-right`, sheet.widthMm / 2)];
}

/** Bilinear, into linear reflectance; white paper reflects 0.84. */
function sample(picture: Raster, x: number, y: number, out: [number, number, number]): void {
  const { width, height, channels, data } = picture;
  const cx = Math.max(0, Math.min(width - 1.001, x));
  const cy = Math.max(0, Math.min(height - 1.001, y));
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = cx - x0;
  const fy = cy - y0;
  const p = (y0 * width + x0) * channels;
  const right = x0 < width - 1 ? channels : 0;
  const below = y0 < height - 1 ? width * channels : 0;
  for (let k = 0; k < 3; k++) {
    const top = linear[data[p + k]!]! * (1 - fx) + linear[data[p + right + k]!]! * fx;
    const bottom = linear[data[p + below + k]!]! * (1 - fx) + linear[data[p + below + right + k]!]! * fx;
    out[k] = 0.84 * (top + (bottom - top) * fy);
  }
}
