import { finestPrint } from '../inspect/finestPrint';
import { crop, type Box } from '../raster/crop';
import { shrinkToEdge } from '../raster/resize';
import { createRaster, wholeQuad, type Quad, type Raster } from '../raster/raster';
import { flatPage, pagePhoto, printedSheet } from '../testing/pictures';
import { pageDpi } from '../rectify/pageDpi';
import { analysePage, finish, finishWindow, flatten, render, type Finish, type FlatPage } from './render';

const quad: Quad = [[100, 100], [520, 100], [520, 694], [100, 694]]; // prettier-ignore
const photo = pagePhoto(640, 800, quad);

describe('render', () => {
  test('an A4 page keeps its size on paper', () => {
    const page = render(photo, { quad, turn: 0, filter: 'grey' });
    expect([page.widthMm, page.heightMm, page.sizeName]).toEqual([210, 297, 'a4']);
    expect(page.photoDpi).toBeCloseTo(420 / (210 / 25.4), 0);
    expect(page.dpi / page.photoDpi).toBeCloseTo(2, 6);
    expect(page.image.width / page.image.height).toBeCloseTo(210 / 297, 2);
    expect(page.image.channels).toBe(1);
  });

  test('its pixels are what a photo resolves, at most what is wanted; small ones are made finer, and a file’s page keeps all of its own', () => {
    const photographed = (dpi: number, wanted?: number) => pageDpi(dpi, true, wanted);
    expect([60, 100, 170, 250, 300, 375, 500].map((dpi) => photographed(dpi))).toEqual([120, 200, 200, 200, 240, 300, 300]);
    expect([photographed(500, 400), photographed(500, 150)]).toEqual([400, 150]);
    expect([60, 170, 250, 300, 500].map((dpi) => pageDpi(dpi, false))).toEqual([120, 200, 250, 300, 300]);
    expect(render(photo, { quad: wholeQuad(photo), whole: true, turn: 0, filter: 'original', size: { widthMm: 65, heightMm: 81.25, name: null } }).dpi).toBeCloseTo((640 / 65) * 25.4, -1); // prettier-ignore
  });

  test('turned by a quarter it lies on its side', () => {
    const page = render(photo, { quad, turn: 90, filter: 'original' });
    expect([page.widthMm, page.heightMm]).toEqual([297, 210]);
    expect(page.image.width).toBeGreaterThan(page.image.height);
  });

  test('limits: resolution and longest side', () => {
    expect(render(photo, { quad, turn: 0, filter: 'original' }, { dpi: 25.4 }).image).toMatchObject({ width: 210, height: 297 });
    expect(render(photo, { quad, turn: 0, filter: 'original' }, { maxEdgePx: 100 }).image.height).toBe(100);
  });

  test('without an outline it is the whole photo; a size that was said is kept', () => {
    const page = render(photo, { quad: null, turn: 0, filter: 'original', size: { widthMm: 148, heightMm: 210, name: 'a5' } });
    expect([page.widthMm, page.heightMm, page.sizeName]).toEqual([148, 210, 'a5']);
  });

  test('auto says which filter it took; the photo is not altered', () => {
    const before = photo.data.slice();
    const page = render(photo, { quad, turn: 0, filter: 'auto' });
    expect(['grey', 'even-light']).toContain(page.filter);
    expect(Buffer.compare(Buffer.from(before.buffer), Buffer.from(photo.data.buffer))).toBe(0);
  });
});

/** Windows of a page that is looked at once, and all of it. */
function made(flat: FlatPage, recipe: Omit<Finish, 'filter'> = {}) {
  const analysis = analysePage(flat, recipe);
  return {
    window: (box: Box, filter: Finish['filter']) => finishWindow(flat, { ...recipe, filter }, analysis, box),
    page: (filter: Finish['filter']) => finish(flat, { ...recipe, filter }, analysis).image,
  };
}

describe('one making for all sizes', () => {
  const sheet = pagePhoto(1400, 1900, [[100, 100], [1290, 100], [1290, 1783], [100, 1783]]); // prettier-ignore
  const recipe = { quad: [[100, 100], [1290, 100], [1290, 1783], [100, 1783]] as unknown as Quad, turn: 0 as const, size: { widthMm: 105, heightMm: 148, name: null } }; // prettier-ignore

  test.each(['auto', 'even-light', 'ink'] as const)('a smaller page is the large one shrunk: %s', (filter) => {
    const large = render(sheet, { ...recipe, filter });
    const small = render(sheet, { ...recipe, filter }, { maxEdgePx: 700 });
    expect(Math.max(small.image.width, small.image.height)).toBe(700);
    expect(small.dpi / large.dpi).toBeCloseTo(small.image.width / large.image.width, 6);
    const { data } = shrinkToEdge(large.image, 700);
    if (filter === 'ink') expect(new Set(small.image.data)).toEqual(new Set([0, 255]));
    expect(small.image.data.every((v, i) => (filter === 'ink' ? (v === 0) === data[i] < 128 : v === data[i]))).toBe(true);
  });

  test('what was told of a page can be kept, and told again nothing changes', () => {
    const flat = flatten(sheet, recipe);
    for (const filter of ['auto', 'board', 'original'] as const) {
      const analysis = analysePage(flat);
      const first = finish(flat, { filter }, analysis);
      const kept = structuredClone(analysis);
      const again = finish(flat, { filter }, kept);
      expect(Buffer.compare(Buffer.from(first.image.data), Buffer.from(again.image.data))).toBe(0);
      expect(kept.judgements.size).toBe(filter === 'original' ? 0 : 1);
    }
  });
});

describe('a window of a page', () => {
  /** A sheet under a lamp from the left, with a coloured field, a red pen's line and desk along its left side. */
  function litSheet(noise: number): FlatPage {
    const image = printedSheet(
      600,
      840,
      (x, y) =>
        x < 5 ? [92, 60, 38] : x > 200 && x < 320 && y > 470 && y < 550 ? [40, 90, 170] : Math.abs(y - 330) < 2 && x > 140 ? [190, 40, 44] : null, // prettier-ignore
      { noise },
    );
    for (let p = 0; p < image.data.length; p++) image.data[p] *= 0.95 - (0.4 * (Math.floor(p / 3) % 600)) / 600;
    return flatPage({ image, widthMm: 210, heightMm: 294, sizeName: 'a4', dpi: 73, photoDpi: 73 });
  }
  const box = { x: 150, y: 290, width: 160, height: 200 };
  const whole = (page: Raster) => {
    const scale = page.width / 600;
    return crop(page, { x: box.x * scale, y: box.y * scale, width: box.width * scale, height: box.height * scale });
  };
  /** The most by which a sample differs, levels. */
  const unlike = (a: Raster, b: Raster) => {
    expect([a.width, a.height, a.channels]).toEqual([b.width, b.height, b.channels]);
    let most = 0;
    for (let i = 0; i < a.data.length; i++) most = Math.max(most, Math.abs(a.data[i] - b.data[i]));
    return most;
  };

  test.each(['original', 'even-light', 'grey', 'ink', 'board', 'picture'] as const)(
    'is what the whole page is there, to the last bit: %s',
    (filter) => {
      for (const noise of filter === 'grey' || filter === 'ink' ? [4, 40] : [40]) {
        const flat = litSheet(noise);
        const adjust = { sharpness: 0.3, evening: 0.8, strokes: 0.2 };
        const { window, page } = made(flat, { adjust });
        expect(unlike(window(box, filter), whole(page(filter)))).toBe(0);
      }
    },
  );

  test.each(['even-light', 'grey', 'ink'] as const)('is what the whole page is, a dark one in glare: %s', (filter) => {
    const image = printedSheet(600, 840);
    for (let p = 0; p < image.data.length; p++) {
      const [x, y] = [Math.floor(p / 3) % 600, Math.floor(p / 1800)];
      image.data[p] = 255 - image.data[p] + 70 * Math.exp(-((x - 250) ** 2 + (y - 500) ** 2) / 40_000);
    }
    const flat = flatPage({ image, widthMm: 210, heightMm: 294, sizeName: 'a4', dpi: 73, photoDpi: 73 });
    const { window, page } = made(flat);
    expect(analysePage(flat).choice.why).toBe('a dark page');
    expect(unlike(window(box, filter), whole(page(filter)))).toBe(0);
  });

  test('has the whole page’s rules', () => {
    const sheet = printedSheet(600, 840, (x, y) => (y % 60 === 30 && x > 140 && x < 560 ? [198, 198, 198] : null), { noise: 14 });
    const flat = flatPage({ image: sheet, widthMm: 100, heightMm: 140, sizeName: null, dpi: 152.4, photoDpi: 80 });
    const { window: windowOf, page } = made(flat);
    const window = windowOf(box, 'grey');
    expect(unlike(window, whole(page('grey')))).toBe(0);
    const inked = ({ data }: Raster) => {
      const row = data.subarray((330 - box.y) * box.width, (331 - box.y) * box.width);
      return row.filter((v) => v < 205).length / box.width;
    };
    expect(inked(window)).toBeGreaterThan(0.9);
    expect(inked(made({ ...flat, photoDpi: 200 }).window(box, 'grey'))).toBeLessThan(0.7);
  });

  test('at the border it ends there; what is filled there is filled', () => {
    const flat = litSheet(4);
    const { window, page } = made(flat);
    const corner = window({ x: 0, y: 0, width: 100, height: 100 }, 'grey');
    expect([corner.width, corner.height]).toEqual([100, 100]);
    expect(Math.min(...corner.data.subarray(50 * 100, 50 * 100 + 100))).toBeGreaterThan(225);
    expect(unlike(corner, crop(page('grey'), { x: 0, y: 0, width: 100, height: 100 }))).toBe(0);
    const left = made(flat, { tidy: false }).window({ x: 0, y: 0, width: 100, height: 100 }, 'grey');
    expect(left.data[50 * 100 + 2]).toBeLessThan(140);
  });

  test('Auto picks for the whole page', () => {
    expect(analysePage(litSheet(4)).choice.filter).toBe(finish(litSheet(4), { filter: 'auto' }).filter);
  });

  test.each([
    [1, 30, 20],
    [3, 9, 14],
    [1, 2, 1],
  ] as const)('of a tiny page with %i channels, %i×%i px', (channels, width, height) => {
    const image = createRaster(width, height, channels);
    image.data.fill(120);
    const tiny = flatPage({ image, widthMm: 5, heightMm: 5, sizeName: null, dpi: 60, photoDpi: 60 });
    const { window } = made(tiny);
    for (const filter of ['original', 'even-light', 'grey', 'ink', 'board', 'picture'] as const) {
      const all = window({ x: 0, y: 0, width, height }, filter);
      expect(all.width / width).toBe(filter === 'ink' ? 2 : 1);
      expect(all.height / height).toBe(all.width / width);
    }
  });

  test('may be all of it', () => {
    const flat = flatten(photo, { quad, turn: 0 });
    const { width, height } = flat.image;
    const { window, page } = made(flat);
    expect(unlike(window({ x: 0, y: 0, width, height }, 'even-light'), page('even-light'))).toBe(0);
  });
});

test('the finest print is found beside a large title', () => {
  const page = createRaster(600, 800, 1);
  page.data.fill(255);
  for (let y = 60; y < 140; y++) for (let x = 60; x < 500; x++) if ((x / 40) % 2 < 1) page.data[y * 600 + x] = 0;
  for (let y = 500; y < 600; y++) for (let x = 300; x < 540; x++) if (y % 8 < 4 && x % 6 < 3) page.data[y * 600 + x] = 60;
  const [x, y] = finestPrint(page, [120, 80]);
  expect(x).toBeGreaterThan(0.5);
  expect(y).toBeGreaterThan(0.6);
});

describe('what is painted by hand', () => {
  const flatOf = (image: Raster) => flatPage({ image, widthMm: 210, heightMm: 297, sizeName: 'a4', dpi: 51, photoDpi: 51 });
  /** A photograph over the whole page: hills of many colours, and a fingertip's blot. */
  function photograph(): Raster {
    const image = createRaster(420, 594, 3);
    for (let y = 0; y < 594; y++)
      for (let x = 0; x < 420; x++) {
        const hill = Math.sin(x / 23) * Math.cos(y / 31) + Math.sin((x + 2 * y) / 57);
        image.data.set([120 + 55 * hill, 80 + 35 * Math.cos(x / 41), 60 + 30 * Math.sin(y / 19)], (y * 420 + x) * 3);
      }
    return image;
  }
  const fill = { kind: 'fill', points: [[209.5, 296.5]], radius: 30 } as const;

  test.each([[[]], [[fill]]])(
    'what Auto picks for a picture all over makes what it makes when asked for, and nothing on its sides is tidied, strokes %j',
    (touches) => {
      const flat = flatOf(photograph());
      const auto = finish(flat, { filter: 'auto', touches });
      expect([auto.filter, auto.tidied]).toEqual(['even-light', 0]);
      const picture = finish(flat, { filter: 'even-light', touches });
      expect(Buffer.compare(Buffer.from(auto.image.data), Buffer.from(picture.image.data))).toBe(0);
      // A stroke is filled under every filter.
      const bare = finish(flat, { filter: 'even-light' }).image.data;
      const middle = (297 * 420 + 210) * 3;
      if (touches.length) expect([...auto.image.data.slice(middle, middle + 3)]).not.toEqual([...bare.slice(middle, middle + 3)]);
    },
  );

  test('on a grey page only its one channel is filled', () => {
    const image = createRaster(420, 594, 1);
    for (let i = 0; i < image.data.length; i++) image.data[i] = 220 - (i % 2);
    for (let y = 280; y < 310; y++) for (let x = 200; x < 220; x++) image.data[y * 420 + x] = 20;
    const { data } = finish(flatOf(image), { filter: 'original', touches: [fill] }).image;
    expect(data[295 * 420 + 210]).toBeGreaterThan(210);
    // Right of the stroke nothing has moved.
    for (let x = 260; x < 400; x++) expect(data[297 * 420 + x]).toBe(image.data[297 * 420 + x]);
  });

  test('a flattened page stays as it is, and its finish is a raster of its own', () => {
    const flat = flatOf(photograph());
    for (const filter of ['original', 'picture', 'grey'] as const) expect(finish(flat, { filter }).image.data.buffer).not.toBe(flat.image.data.buffer); // prettier-ignore
  });

  test('what is kept keeps its sliver, and no other does; windows at the border have the same', () => {
    const image = printedSheet(600, 840, (x) => (x < 2 ? [92, 60, 38] : null));
    const flat = flatPage({ image, widthMm: 210, heightMm: 294, sizeName: 'a4', dpi: 73, photoDpi: 73 });
    const keep = { kind: 'keep', points: [[0, 210]], radius: 25 } as const;
    const page = finish(flat, { filter: 'grey', touches: [keep] }).image;
    const at = (y: number) => page.data[Math.round(y * 840) * 600];
    expect(at(0.25)).toBeLessThan(140);
    expect(at(0.75)).toBeGreaterThan(225);
    const window = made(flat, { touches: [keep] }).window({ x: 0, y: 150, width: 60, height: 500 }, 'grey');
    expect(window.data[60 * 60]).toBeLessThan(140);
    expect(window.data[480 * 60]).toBeGreaterThan(225);
  });
});
