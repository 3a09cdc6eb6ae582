import path from 'node:path';
import { findPages, flatten, sidesNear, type FlatPage, type Outline, type Quad, type Raster } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth, type TruePage } from './photos';

/** A page cut out along its true corners, its sides traced by us, or along the outline that we found: what finishing is measured on. */
export interface MeasuredPage {
  category: string;
  /** Stem of the photo's name and the page's number from 1. */
  name: string;
  truth: TruePage;
  flat: FlatPage;
  /** The photo itself. */
  photo: Raster;
}

export interface FlatPagesOptions {
  perCategory: number;
  /** Categories; none: all. */
  only?: readonly string[];
  /** Along the outlines that the finder gives; a page that it misses is named and left out. */
  own?: boolean;
}

/** The first photos of each category, page by page, so that only one photo is held at a time. */
export async function* flatPages(dir: string, { perCategory, only = [], own }: FlatPagesOptions): AsyncGenerator<MeasuredPage> {
  const count = new Map<string, number>();
  for (const photo of readTruth(dir)) {
    const n = (count.get(photo.category) ?? 0) + 1;
    count.set(photo.category, n);
    if (n > perCategory || !photo.pages.length || (only.length && !only.includes(photo.category))) continue;
    const raster = await decode(path.join(dir, photo.file));
    const outlines = own ? findPages(raster) : [];
    const alone = photo.pages.length < 2 || photo.category === 'book';
    for (const [i, truth] of photo.pages.entries()) {
      const name = `${path.parse(photo.file).name}-${i + 1}`;
      const outline = own ? foundFor(truth, outlines) : alongTruth(raster, truth);
      if (!outline) {
        console.log(`${name}: not found`);
        continue;
      }
      const { quad, polygon } = outline;
      yield {
        category: photo.category,
        name,
        truth,
        photo: raster,
        flat: flatten(raster, { quad, ...(polygon && { polygon }), turn: 0 }, { alone }),
      };
    }
  }
}

type Cut = Pick<Outline, 'quad' | 'polygon'>;

function alongTruth(photo: Raster, truth: TruePage): Cut {
  const quad = truth.quad as unknown as Quad;
  const polygon = sidesNear(photo, quad);
  return { quad, ...(polygon && { polygon }) };
}

/** The outline that is this page's, if at least half of it lies right. */
function foundFor({ quad, size_mm }: TruePage, outlines: readonly Outline[]): Cut | null {
  const rated = outlines.map((outline) => ({ outline, ji: jaccard(quad, [...outline.quad], size_mm) }));
  const best = rated.sort((a, b) => b.ji - a.ji)[0];
  return best && best.ji >= 0.5 ? best.outline : null;
}
