import { PDFDocument, PDFName, type PDFObject, type PDFRef } from '@cantoo/pdf-lib';
import type { LayeredImage, PageImage, SmallJpeg } from './pageImage';
import { makeArchival } from './archival';
import { writeOutline } from './outline';
import { bytesOf, type Part } from './parts';
import { serialised } from './serialise';
import { Tags } from './tags';
import { TextLayer } from './textLayer';

export interface PdfMeta {
  title: string;
  /** When the document was begun and changed. */
  created: Date;
  changed: Date;
  /** Whoever opens it must know this; such a file is no PDF/A, which forbids encryption. */
  password?: string;
  /** What every page lies on, in the middle and the way up that it is itself; a page that is larger than this less its margins is made smaller. Without it each page has its own size. */
  paper?: { widthMm: number; heightMm: number };
}

/** Of a sheet of paper, mm: printers leave about so much free (common practice). */
const marginMm = 10;

const pointsPerMm = 72 / 25.4;

/**
 * One PDF page a page image, at its true size, or all on one size of paper. JPEGs go in untouched, 1-bit pages as CCITT Group 4; bytes that occur twice
 * are embedded once. Layered pages are what lies under the ink, and the ink's colours through a mask. Words that were read lie over their page, unseen, tagged as paragraphs. The parts of a joined document stand in its outline. By the rules of PDF/A-2b, or encrypted (AES-256, ISO 32000-2, 7.6).
 *
 * @returns the file in pieces; the pages' pictures are those that were given. Encrypted it is one, in memory.
 */
export async function writePdf(pages: readonly PageImage[], meta: PdfMeta): Promise<Part[]> {
  if (!pages.length) throw new RangeError('A PDF needs at least one page');
  const pdf = await PDFDocument.create();
  pdf.setTitle(meta.title, { showInWindowTitleBar: true });
  pdf.setProducer('Libretto');
  pdf.setCreator('Libretto');
  pdf.setCreationDate(meta.created);
  pdf.setModificationDate(meta.changed);
  const { context } = pdf;
  const tags = new Tags(pdf);
  const layer = new TextLayer(pdf, tags);
  const hasWords = pages.some((p) => p.words?.lines.some((line) => line.length));
  const language = pages.find((p) => p.words?.language)?.words!.language;
  if (language) pdf.setLanguage(language);
  const embedded = new Map<Part, PDFRef>();
  const outside = new Map<PDFObject, Part>();
  const embed = async (bytes: Part, dictionary: Parameters<typeof context.stream>[1]): Promise<PDFRef> => {
    const stream = context.stream(meta.password ? await bytesOf(bytes) : new Uint8Array(), dictionary);
    if (!meta.password) outside.set(stream, bytes);
    return context.register(stream);
  };
  /** The ink's colours, seen where the mask has ink (explicit masking, ISO 32000-1, 8.9.6.3). */
  const inkOver = async ({ ink, bytes, maskWidth: width, maskHeight: height }: PageImage & LayeredImage) =>
    embed(ink.bytes, { ...jpegOf(ink), Mask: await embed(bytes, { ...group4Of({ width, height }), ImageMask: true }) });
  for (const image of pages) {
    const width = image.widthMm * pointsPerMm;
    const height = image.heightMm * pointsPerMm;
    const { sheet, place } = laidOn(meta.paper, image);
    const page = pdf.addPage(sheet);
    let reference = embedded.get(image.bytes);
    if (!reference) {
      reference = image.kind === 'layered' ? await inkOver(image) : await embed(image.bytes, dictionaryOf(image));
      embedded.set(image.bytes, reference);
    }
    page.node.setXObject(PDFName.of('Page'), reference);
    const under = image.kind === 'layered' ? '/Under Do ' : '';
    if (image.kind === 'layered')
      page.node.setXObject(PDFName.of('Under'), await embed(image.background.bytes, jpegOf(image.background)));
    const picture = `q ${round(width)} 0 0 ${round(height)} 0 0 cm ${under}/Page Do Q`;
    // Beside words that say what stands in it the picture is none of what is read out.
    const drawing = hasWords ? `/Artifact BMC ${picture} EMC` : picture;
    const words = image.words ? layer.write(page, image.words, image.heightMm) : '';
    page.node.set(
      PDFName.of('Contents'),
      context.register(
        words ? context.flateStream(placed(`${drawing}\n${words}`, place)) : context.stream(placed(drawing, place)),
      ),
    );
  }
  layer.end();
  tags.end();
  writeOutline(pdf, pages, meta.title);
  if (meta.password) {
    pdf.encrypt({ userPassword: meta.password, ownerPassword: meta.password });
    return [await pdf.save({ useObjectStreams: false })];
  }
  makeArchival(pdf, meta);
  return serialised(pdf, outside);
}

/** A page's sheet, points, and where its lower left corner lies on it and how much smaller it is made; null where the sheet is the page. */
function laidOn(paper: PdfMeta['paper'], { widthMm, heightMm }: { widthMm: number; heightMm: number }) {
  if (!paper) return { sheet: [widthMm * pointsPerMm, heightMm * pointsPerMm] as [number, number], place: null };
  const sides = [paper.widthMm, paper.heightMm].sort((a, b) => a - b);
  const [across, down] = (widthMm > heightMm ? sides.reverse() : sides) as [number, number];
  // What is as large as the sheet itself was one, and stays as it is.
  const fits = widthMm <= across + 1 && heightMm <= down + 1;
  const free = fits ? 0 : 2 * marginMm;
  const scale = Math.min(1, (across - free) / widthMm, (down - free) / heightMm);
  const at = [(across - scale * widthMm) / 2, (down - scale * heightMm) / 2].map((v) => v * pointsPerMm) as [number, number];
  return { sheet: [across * pointsPerMm, down * pointsPerMm] as [number, number], place: { scale, at } };
}

const placed = (content: string, place: ReturnType<typeof laidOn>['place']): string =>
  place
    ? `q ${round(place.scale)} 0 0 ${round(place.scale)} ${round(place.at[0])} ${round(place.at[1])} cm\n${content}\nQ`
    : content;

const round = (v: number) => Math.round(v * 1000) / 1000;

const pictureOf = ({ width, height }: { width: number; height: number }) => ({
  Type: 'XObject',
  Subtype: 'Image',
  Width: width,
  Height: height,
});
const jpegOf = (jpeg: Omit<SmallJpeg, 'bytes'>) => ({
  ...pictureOf(jpeg),
  ColorSpace: jpeg.components === 1 ? 'DeviceGray' : 'DeviceRGB',
  BitsPerComponent: 8,
  Filter: 'DCTDecode',
});
const group4Of = (image: { width: number; height: number }) => ({
  ...pictureOf(image),
  BitsPerComponent: 1,
  Filter: 'CCITTFaxDecode',
  DecodeParms: { K: -1, Columns: image.width, Rows: image.height },
});
const dictionaryOf = (image: Exclude<PageImage, LayeredImage>) =>
  image.kind === 'jpeg' ? jpegOf(image) : { ...group4Of(image), ColorSpace: 'DeviceGray' };
