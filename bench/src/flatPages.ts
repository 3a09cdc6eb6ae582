import path from 'node:path';
import { flatten, sidesNear, type FlatPage, type Quad, type Raster } from '@libretto/core';
import { decode, readTruth, type TruePage } from './photos';

/** A page cut out along its true corners, its sides traced by us: what finishing is measured on. */
export interface MeasuredPage {
  category: string;
  /** Stem of the photo's name and the page's number from 1. */
  name: string;
  truth: TruePage;
  flat: FlatPage;
  /** The photo itself. */
  photo: Raster;
}

/** The first `perCategory` photos of each category, page by page, so that only one photo is held at a time. */
export async function* flatPages(dir: string, perCategory: number, only: readonly string[] = []): AsyncGenerator<MeasuredPage> {
  const count = new Map<string, number>();
  for (const photo of readTruth(dir)) {
    const n = (count.get(photo.category) ?? 0) + 1;
    count.set(photo.category, n);
    if (n > perCategory || !photo.pages.length || (only.length && !only.includes(photo.category))) continue;
    const raster = await decode(path.join(dir, photo.file));
    const alone = photo.pages.length < 2 || photo.category === 'book';
    for (const [i, truth] of photo.pages.entries()) {
      const quad = truth.quad as unknown as Quad;
      const polygon = sidesNear(raster, quad);
      yield {
        category: photo.category,
        name: `${path.parse(photo.file).name}-${i + 1}`,
        truth,
        photo: raster,
        flat: flatten(raster, { quad, ...(polygon && { polygon }), turn: 0 }, { alone }),
      };
    }
  }
}
