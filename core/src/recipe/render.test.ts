import { finestPrint } from '../inspect/finestPrint';
import { createRaster, type Quad } from '../raster/raster';
import { pagePhoto } from '../testing/pictures';
import { pageDpi, render } from './render';

const quad: Quad = [[100, 100], [520, 100], [520, 694], [100, 694]]; // prettier-ignore
const photo = pagePhoto(640, 800, quad);

describe('render', () => {
  test('an A4 page keeps its size on paper, its pixels are twice those the photo holds, up to what is wanted', () => {
    const page = render(photo, { quad, turn: 0, filter: 'grey' });
    expect([page.widthMm, page.heightMm, page.sizeName]).toEqual([210, 297, 'a4']);
    expect(page.photoDpi).toBeCloseTo(420 / (210 / 25.4), 0);
    expect(page.dpi / page.photoDpi).toBeCloseTo(2, 6);
    expect([pageDpi(100), pageDpi(170), pageDpi(170, 600), pageDpi(500)]).toEqual([200, 300, 340, 300]);
    expect(page.image.width / page.image.height).toBeCloseTo(210 / 297, 2);
    expect(page.image.channels).toBe(1);
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

test('the finest print is found beside a large title', () => {
  const page = createRaster(600, 800, 1);
  page.data.fill(255);
  for (let y = 60; y < 140; y++) for (let x = 60; x < 500; x++) if ((x / 40) % 2 < 1) page.data[y * 600 + x] = 0;
  for (let y = 500; y < 600; y++) for (let x = 300; x < 540; x++) if (y % 8 < 4 && x % 6 < 3) page.data[y * 600 + x] = 60;
  const [x, y] = finestPrint(page, [120, 80]);
  expect(x).toBeGreaterThan(0.5);
  expect(y).toBeGreaterThan(0.6);
});
