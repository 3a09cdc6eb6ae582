import sharp from 'sharp';
import { filters, layersOf, pictureAreas, type PageAnalysis, type Raster, type RenderedPage } from '@libretto/core';
import { encodeGroup4, lighterTries, packBits, sizeOf, writePdf, type Lighter, type PageImage, type Part, type PdfMeta, type SmallJpeg, type TiffPage } from '@libretto/formats'; // prettier-ignore
import { picturesAmong, type PagePlaces, type PlacedPicture } from '@libretto/text';

/** A finished page, and what was read on it. */
export interface WordedPage extends RenderedPage {
  words?: PageImage['words'];
}

const rawOf = ({ width, height, channels, data }: Raster) => {
  const raw = sharp(data, { raw: { width, height, channels } });
  return channels === 1 ? raw.toColourspace('b-w') : raw;
};

export async function png({ image, dpi, filter }: RenderedPage): Promise<Buffer> {
  return rawOf(image)
    .withMetadata({ density: dpi })
    .png({ compressionLevel: 6, ...(filters[filter].twoLevel && { palette: true, colours: 2 }) })
    .toBuffer();
}

export const jpeg = ({ image, dpi }: RenderedPage): Promise<Buffer> =>
  rawOf(image).jpeg({ quality: 80 }).withMetadata({ density: dpi }).toBuffer();

export function asTiffPage({ image, widthMm, heightMm, filter }: RenderedPage): TiffPage {
  if (!filters[filter].twoLevel) return { kind: 'pixels', widthMm, heightMm, raster: image };
  return { kind: 'group4', width: image.width, height: image.height, widthMm, heightMm, bytes: encodeGroup4(packBits(image)) };
}

async function small(raster: Raster, quality: number): Promise<SmallJpeg> {
  const { width, height, channels } = raster;
  return { width, height, components: channels === 1 ? 1 : 3, bytes: await rawOf(raster).jpeg({ quality }).toBuffer() };
}

/** The pictures that are printed on a page, cut out of it. */
export async function picturesOn(
  { image, widthMm, heightMm }: RenderedPage,
  analysis: PageAnalysis,
  { lines }: PagePlaces,
): Promise<PlacedPicture[]> {
  return Promise.all(
    picturesAmong(pictureAreas(analysis, { widthMm, heightMm }), lines).map(async (box) => {
      const px = (mm: number) => Math.round((mm / widthMm) * image.width);
      const [left, top] = [px(box.x), px(box.y)];
      const [width, height] = [Math.min(image.width - left, px(box.width)), Math.min(image.height - top, px(box.height))];
      const cut = await rawOf(image).extract({ left, top, width, height }).jpeg({ quality: 85 }).toBuffer();
      return { box, picture: { jpeg: new Uint8Array(cut), width, height, widthMm: box.width, heightMm: box.height } };
    }),
  );
}

/** A page as it lies in a PDF; two-level ones stay as they are, however light it is to be. */
export async function pdfPage({ image, widthMm, heightMm, filter, words, dpi }: WordedPage, how?: Lighter): Promise<PageImage> {
  const common = { width: image.width, height: image.height, widthMm, heightMm, ...(words && { words }) };
  if (filters[filter].twoLevel) return { ...common, kind: 'group4', bytes: encodeGroup4(packBits(image)) };
  const quality = how ? Math.round(how.quality * 100) : 80;
  const layers = how?.layered ? layersOf(image, dpi) : null;
  if (layers) {
    const [background, ink] = await Promise.all([small(layers.background, quality), small(layers.ink, quality)]);
    return {
      ...common,
      kind: 'layered',
      maskWidth: layers.mask.width,
      maskHeight: layers.mask.height,
      bytes: encodeGroup4(packBits(layers.mask)),
      background,
      ink,
    };
  }
  const width = how ? Math.max(1, Math.min(image.width, Math.round((widthMm / 25.4) * how.dpi))) : image.width;
  const height = Math.max(1, Math.round((image.height * width) / image.width));
  const bytes = await rawOf(image).resize({ width, height, fit: 'fill' }).jpeg({ quality }).toBuffer();
  return { ...common, width, height, kind: 'jpeg', components: image.channels === 1 ? 1 : 3, bytes };
}

/** How a layered page is made. */
export const layered = lighterTries.find((how) => how.layered)!;

/** A page that may have to be made lighter, without loss and far smaller than its samples. */
export interface KeptPage extends Omit<WordedPage, 'image'> {
  png: Buffer;
}

export async function keptPage({ image, ...page }: WordedPage): Promise<KeptPage> {
  return { ...page, png: await rawOf(image).png({ compressionLevel: 3 }).toBuffer() };
}

async function pageOf({ png: kept, ...page }: KeptPage): Promise<WordedPage> {
  const { data, info } = await sharp(kept).raw().toBuffer({ resolveWithObject: true });
  return { ...page, image: { width: info.width, height: info.height, channels: info.channels as 1 | 3, data } };
}

/**
 * A PDF of so many bytes at most, made lighter until it is.
 *
 * @returns the file, and whether it has become as light as it was to be.
 */
export async function pdfUnder(pages: readonly KeptPage[], meta: PdfMeta, most: number, first?: Lighter) {
  let parts: Part[] = [];
  for (const how of [first, ...lighterTries]) {
    const images: PageImage[] = [];
    for (const page of pages) images.push(await pdfPage(await pageOf(page), how));
    parts = await writePdf(images, meta);
    if (sizeOf(parts) <= most) break;
  }
  return { parts, fits: sizeOf(parts) <= most };
}
