import type { pinhole } from './pinhole';
import type { Lighting } from './scene';

/** Light is smooth: it is worked out at every eighth pixel and interpolated. */
const lightStep = 8;

/** Lamp by inverse square and cosine, with the paper's slope towards it; ambient light; the phone's shadow. */
export function lightAt(light: Lighting, x: number, y: number, z: number, slope: number): number {
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
export function lightGrid(light: Lighting, camera: ReturnType<typeof pinhole>, width: number, height: number) {
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
