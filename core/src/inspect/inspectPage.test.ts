import { gaussian } from '../raster/blur';
import { createPlane, createRaster, type Quad, type Raster } from '../raster/raster';
import { flatten } from '../recipe/render';
import { random } from '../testing/pictures';
import { inspectPage } from './inspectPage';
import { pageGrain } from './pageGrain';
import { pageSharpness } from './pageSharpness';
import { shareOutside } from './shareOutside';

const quad: Quad = [[60, 60], [840, 60], [840, 1163], [60, 1163]]; // prettier-ignore

/** A page of print on a dark desk. */
function photo({ paper = 205, ink = 40, print = true }: { paper?: number; ink?: number; print?: boolean } = {}): Raster {
  const picture = createRaster(900, 1223, 3);
  const next = random(3);
  for (let y = 0; y < 1223; y++)
    for (let x = 0; x < 900; x++) {
      const on = x >= 60 && x <= 840 && y >= 60 && y <= 1163;
      const stroke = print && x > 130 && x < 770 && y > 130 && y < 1090 && y % 26 < 14 && (x * 7 + (y >> 1) * 3) % 23 < 9;
      const v = on ? (stroke ? ink : paper) : 50;
      for (let c = 0; c < 3; c++) picture.data[(y * 900 + x) * 3 + c] = v + (next() - 0.5) * 3;
    }
  return picture;
}

function blurred(picture: Raster, sigma: number): Raster {
  const out = createRaster(picture.width, picture.height, 3);
  for (let c = 0; c < 3; c++) {
    const plane = createPlane(picture.width, picture.height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = picture.data[i * 3 + c];
    const soft = gaussian(plane, sigma).data;
    for (let i = 0; i < soft.length; i++) out.data[i * 3 + c] = soft[i];
  }
  return out;
}

const a6 = { widthMm: 105, heightMm: 148, name: 'a6' } as never;
const faults = (picture: Raster, outline: Quad = quad) =>
  inspectPage(picture, outline, flatten(picture, { quad: outline, turn: 0, size: a6 }, { maxEdgePx: 900 })).findings;
const ids = (picture: Raster, outline?: Quad) => faults(picture, outline).map((f) => f.id);

test('a good photograph of a page is found without fault', () => expect(ids(photo())).toEqual([]));

test('out of focus: blurred, the more the worse, and not for the page being small', () => {
  const soft = [0, 2, 3.5].map((sigma) => pageSharpness(sigma ? blurred(photo(), sigma) : photo(), quad)!);
  expect(soft[0]).toBeGreaterThan(soft[1]!);
  expect(soft[1]).toBeGreaterThan(soft[2]!);
  expect(ids(blurred(photo(), 3.5))).toContain('blurred');
});

test('lines that slope after flattening: edges were followed wrongly', () => {
  const askew: Quad = [[60, 60], [840, 92], [840, 1195], [60, 1163]]; // prettier-ignore
  const [found] = faults(photo(), askew).filter((f) => f.id === 'crooked');
  expect(found).toMatchObject({ severity: 'look' });
  // The outline falls by 32 of 780 px: the print rises by as much.
  expect(found!.value).toBeCloseTo((-Math.atan(32 / 780) * 180) / Math.PI, 0);
});

test('no print, nothing to be blurred: blank', () => {
  expect(faults(photo({ print: false }))).toMatchObject([{ id: 'blank', severity: 'note' }]);
});

test('in the dark: dark, and to be taken again when next to nothing is seen', () => {
  expect(faults(photo({ paper: 50, ink: 10 }))).toMatchObject([{ id: 'dark', severity: 'look' }]);
  expect(faults(photo({ paper: 26, ink: 8 })).find((f) => f.id === 'dark')).toMatchObject({ severity: 'retake' });
});

describe('grain', () => {
  /** Noise of a standard deviation, on blocks of so many pixels, as a phone leaves it when it smooths. */
  const grained = (deviation: number, block: number, { paper = 120, print = true } = {}) => {
    const picture = photo({ paper, ink: 30, print });
    const next = random(11);
    const normal = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    const wide = Math.ceil(picture.width / block);
    const blocks = Float32Array.from({ length: wide * Math.ceil(picture.height / block) }, () => deviation * normal());
    for (let p = 0; p < picture.width * picture.height; p++) {
      const v = blocks[Math.floor(p / picture.width / block) * wide + Math.floor((p % picture.width) / block)]!;
      for (let c = 0; c < 3; c++) picture.data[3 * p + c] = Math.max(0, Math.min(255, picture.data[3 * p + c]! + v));
    }
    return picture;
  };
  const dpi = 188;

  test('is the noise that is left at a hundredth of an inch, as a part of the paper', () => {
    const on = (deviation: number, block: number, paper = 120) =>
      pageGrain(grained(deviation, block, { paper, print: false }), quad, dpi)! / ((224 * deviation) / paper);
    // A pixel of 100 dpi is the mean of 1.88² of the photo's; of the cells those with little deviation are taken.
    expect(on(6, 1) * 1.88).toBeGreaterThan(0.6);
    expect(on(6, 1) * 1.88).toBeLessThan(0.9);
    // What a phone has smeared to the size of a stroke is not averaged away.
    expect(on(6, 3)).toBeGreaterThan(1.4 * on(6, 1));
    expect(on(6, 3, 60)).toBeCloseTo(on(6, 3), 1);
  });

  test('on bright paper and fine it is no fault; as coarse as strokes it is, the stronger the worse', () => {
    expect(ids(grained(3, 1))).not.toContain('grainy');
    expect(faults(grained(8, 3)).find((f) => f.id === 'grainy')).toMatchObject({ severity: 'look' });
    expect(faults(grained(16, 3)).find((f) => f.id === 'grainy')).toMatchObject({ severity: 'retake' });
  });

  test('a dark page is called dark, not grainy as well', () => {
    const found = ids(grained(6, 3, { paper: 55 }));
    expect(found).toContain('dark');
    expect(found).not.toContain('grainy');
  });

  test('a page of which no window lies in the photo has none', () =>
    expect(pageGrain(photo(), [[-900, 60], [-100, 60], [-100, 1163], [-900, 1163]], dpi)).toBeNull()); // prettier-ignore
});

test('a white patch on grey paper is glare, print between white paper is not', () => {
  const picture = photo({ paper: 190 });
  for (let y = 500; y < 680; y++)
    for (let x = 300; x < 480; x++) picture.data.fill(255, (y * 900 + x) * 3, (y * 900 + x) * 3 + 3);
  expect(ids(picture)).toEqual(['glare']);
  expect(ids(photo({ paper: 253 }))).toEqual([]);
});

test('few pixels on a named size: low resolution, with what there is', () => {
  const picture = photo();
  const page = flatten(
    picture,
    { quad, turn: 0, size: { widthMm: 297, heightMm: 420, name: 'a3' } as never },
    { maxEdgePx: 900 },
  );
  const found = inspectPage(picture, quad, page).findings.find((f) => f.id === 'low-resolution')!;
  expect(found).toMatchObject({ severity: 'retake' });
  expect(found.value).toBeCloseTo((780 / 297) * 25.4, 0);
});

test('the share of a page outside the photo is exact', () => {
  const frame = { width: 100, height: 100 };
  expect(shareOutside([[9.5, 9.5], [89.5, 9.5], [89.5, 89.5], [9.5, 89.5]], frame)).toBe(0); // prettier-ignore
  expect(shareOutside([[-50.5, -0.5], [49.5, -0.5], [49.5, 99.5], [-50.5, 99.5]], frame)).toBeCloseTo(0.5, 9); // prettier-ignore
  // A triangle at a corner of the photo: half of a square of 10 of 100².
  expect(shareOutside([[-0.5, -0.5], [99.5, -0.5], [99.5, 99.5], [-0.5, 99.5]], { width: 90, height: 100 })).toBeCloseTo(0.1, 9); // prettier-ignore
  expect(ids(photo(), [[-200, 60], [840, 60], [840, 1163], [-200, 1163]])).toContain('cut-off'); // prettier-ignore
});
