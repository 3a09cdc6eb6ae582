import { noise } from './noise';

export type Desk = 'oak' | 'slate' | 'felt' | 'laminate' | 'checked' | 'wall';
type Colour = [number, number, number];

/** Reflectance 0..1 (linear) of a desk at a point in mm; written to `out`. */
export function deskColour(desk: Desk, x: number, y: number, out: Colour): void {
  switch (desk) {
    case 'oak': {
      const plank = Math.floor(y / 92);
      const grain = noise(x / 70 + plank * 13, y / 2.6, 3) * 0.5 + noise(x / 9, y / 0.9, 7) * 0.22;
      const seam = Math.abs(y - Math.round(y / 92) * 92) < 0.7 ? 0.45 : 1;
      const k = (0.5 + grain * 0.75 + (noise(plank, 0.5, 5) - 0.5) * 0.3) * seam;
      return set(out, 0.2 * k, 0.115 * k, 0.06 * k);
    }
    case 'slate': {
      const k = 0.8 + 0.3 * noise(x / 14, y / 9, 11) + 0.16 * noise(x / 1.6, y / 1.6, 12);
      return set(out, 0.055 * k, 0.062 * k, 0.07 * k);
    }
    case 'felt': {
      const k = 0.75 + 0.5 * noise(x / 0.7, y / 0.7, 21) * noise(x / 5, y / 5, 22) + 0.1;
      return set(out, 0.03 * k, 0.11 * k, 0.075 * k);
    }
    case 'laminate': {
      const k = 0.97 + 0.05 * noise(x / 30, y / 18, 31);
      const fleck = noise(x / 1.1, y / 1.1, 32) > 0.86 ? 0.86 : 1;
      return set(out, 0.66 * k * fleck, 0.63 * k * fleck, 0.58 * k * fleck);
    }
    case 'checked': {
      const a = ((x % 36) + 36) % 36 < 18;
      const b = ((y % 36) + 36) % 36 < 18;
      const weave = 0.9 + 0.2 * noise(x / 0.8, y / 0.8, 41);
      const k = (a ? 0.55 : 1) * (b ? 0.55 : 1) * weave;
      return set(out, 0.5 * k, 0.58 * k * (a && b ? 0.9 : 1), 0.72 * k);
    }
    case 'wall': {
      const k = 0.95 + 0.08 * noise(x / 6, y / 6, 51) + 0.05 * noise(x / 200, y / 200, 52);
      return set(out, 0.42 * k, 0.44 * k, 0.4 * k);
    }
  }
}

function set(out: Colour, r: number, g: number, b: number): void {
  out[0] = r;
  out[1] = g;
  out[2] = b;
}
