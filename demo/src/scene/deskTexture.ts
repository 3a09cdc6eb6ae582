import { deskColour, type Desk } from './desk';
import type { Row } from './row';

/** A desk as a picture, so that a film of it need not grow its wood anew for each frame. */
const deskPxPerMm = 2;
const deskReachMm = 320;
const desks = new Map<Desk, ReturnType<typeof paintDesk>>();

export function deskTexture(desk: Desk) {
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
