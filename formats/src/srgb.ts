/** Of the profile's colours with the light of D50 (IEC 61966-2-1 adapted by Bradford; the values of the ICC's own sRGB profile, from memory). */
const white = [0.9642, 1, 0.8249];
const primaries = { r: [0.43607, 0.22249, 0.01392], g: [0.38515, 0.71687, 0.09708], b: [0.14307, 0.06061, 0.7141] };
const steps = 1024;

let made: Uint8Array | null = null;

/** sRGB as an ICC profile of version 2 (ICC.1:2001-04, matrix and curves): what DeviceRGB of a file means. */
export function srgbProfile(): Uint8Array {
  if (made) return made;
  const xyz = (values: readonly number[]) => words('XYZ ', 0, ...values.map((v) => Math.round(v * 65536)));
  const linear = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
  const curve = new Uint8Array(12 + 2 * steps);
  curve.set(words('curv', 0, steps));
  for (let i = 0; i < steps; i++) new DataView(curve.buffer).setUint16(12 + 2 * i, Math.round(linear(i / (steps - 1)) * 65535));
  const name = ascii('sRGB');
  const description = new Uint8Array(12 + name.length + 1 + 8 + 3 + 67);
  description.set(words('desc', 0, name.length + 1));
  description.set(name, 12);
  const copyright = Uint8Array.of(...words('text', 0), ...ascii('No copyright, use freely'), 0);
  const tags: [string, Uint8Array][] = [['desc', description], ['cprt', copyright], ['wtpt', xyz(white)], ['rXYZ', xyz(primaries.r)], ['gXYZ', xyz(primaries.g)], ['bXYZ', xyz(primaries.b)], ['rTRC', curve], ['gTRC', curve], ['bTRC', curve]]; // prettier-ignore
  const blocks = [...new Set(tags.map(([, data]) => data))];
  let at = 128 + 4 + 12 * tags.length;
  const places = new Map(
    blocks.map((data) => {
      const place = at;
      at += (data.length + 3) & ~3;
      return [data, place];
    }),
  );
  const out = new Uint8Array(at);
  const view = new DataView(out.buffer);
  view.setUint32(0, at);
  view.setUint32(8, 0x02400000);
  out.set(ascii('mntrRGB XYZ '), 12);
  [2026, 1, 1].forEach((v, i) => view.setUint16(24 + 2 * i, v));
  out.set(ascii('acsp'), 36);
  white.forEach((v, i) => view.setInt32(68 + 4 * i, Math.round(v * 65536)));
  view.setUint32(128, tags.length);
  tags.forEach(([tag, data], i) => {
    out.set(ascii(tag), 132 + 12 * i);
    view.setUint32(136 + 12 * i, places.get(data)!);
    view.setUint32(140 + 12 * i, data.length);
  });
  for (const [data, place] of places) out.set(data, place);
  return (made = out);
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

function words(type: string, ...values: number[]): Uint8Array {
  const out = new Uint8Array(4 + 4 * values.length);
  out.set(ascii(type));
  values.forEach((v, i) => new DataView(out.buffer).setInt32(4 + 4 * i, v));
  return out;
}
