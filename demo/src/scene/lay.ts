import { shrinkToEdge, type Raster } from '@libretto/core';
import { bendTable } from './bend';
import { lightAt } from './light';
import type { pinhole } from './pinhole';
import type { Row } from './row';
import type { LaidSheet, Lighting } from './scene';

const linear = Float32Array.from({ length: 256 }, (_, i) =>
  i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4,
);
const paperReflects = 0.84;
/** How far a sheet's own shadow reaches beyond its edge, and how dark it is there. */
const shadowMm = 3.5;
const usualShadow = 0.38;

/** A sheet made ready for one picture: where in it it can be seen, and what a ray meets there. */
export function lay(sheet: LaidSheet, camera: ReturnType<typeof pinhole>, pxPerMm: number, width: number, height: number) {
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
