import type { Point } from '@libretto/core';

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
