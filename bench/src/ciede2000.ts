export type Lab = readonly [L: number, a: number, b: number];

const radians = Math.PI / 180;

/**
 * Colour difference CIEDE2000 with weights 1: CIE 142-2001 in the form of Sharma, Wu and Dalal, "The CIEDE2000 color-difference formula", Color
 * Research and Application 30 (2005).
 */
export function ciede2000([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const c = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const g = 0.5 * (1 - Math.sqrt(c ** 7 / (c ** 7 + 25 ** 7)));
  const [x1, x2] = [(1 + g) * a1, (1 + g) * a2];
  const [c1, c2] = [Math.hypot(x1, b1), Math.hypot(x2, b2)];
  const hue = (x: number, b: number) => (x || b ? (Math.atan2(b, x) / radians + 360) % 360 : 0);
  const [h1, h2] = [hue(x1, b1), hue(x2, b2)];
  const grey = c1 * c2 === 0;
  const turn = grey ? 0 : h2 - h1 > 180 ? h2 - h1 - 360 : h2 - h1 < -180 ? h2 - h1 + 360 : h2 - h1;
  const dL = l2 - l1;
  const dC = c2 - c1;
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((turn * radians) / 2);
  const meanL = (l1 + l2) / 2;
  const meanC = (c1 + c2) / 2;
  const sum = h1 + h2;
  const meanH = grey ? sum : Math.abs(h1 - h2) <= 180 ? sum / 2 : sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2;
  const cos = (degrees: number) => Math.cos(degrees * radians);
  const t = 1 - 0.17 * cos(meanH - 30) + 0.24 * cos(2 * meanH) + 0.32 * cos(3 * meanH + 6) - 0.2 * cos(4 * meanH - 63);
  const sl = 1 + (0.015 * (meanL - 50) ** 2) / Math.sqrt(20 + (meanL - 50) ** 2);
  const sc = 1 + 0.045 * meanC;
  const sh = 1 + 0.015 * meanC * t;
  const theta = 30 * Math.exp(-(((meanH - 275) / 25) ** 2));
  const rotation = -2 * Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)) * Math.sin(2 * theta * radians);
  return Math.sqrt((dL / sl) ** 2 + (dC / sc) ** 2 + (dH / sh) ** 2 + rotation * (dC / sc) * (dH / sh));
}
