import { PDFDocument, PDFName, type PDFContext, type PDFRef } from '@cantoo/pdf-lib';
import type { LayeredImage, PageImage, SmallJpeg } from './pageImage';
import { makeArchival } from './archival';
import { Tags } from './tags';
import { TextLayer } from './textLayer';

export interface PdfMeta {
  title: string;
  /** When the document was begun and changed. */
  created: Date;
  changed: Date;
  /** Whoever opens it must know this; such a file is no PDF/A, which forbids encryption. */
  password?: string;
}

const pointsPerMm = 72 / 25.4;

/**
 * One PDF page a page image, at its true size on paper. JPEGs go in untouched, 1-bit pages as CCITT Group 4; bytes that occur twice
 * are embedded once. Layered pages are what lies under the ink, and the ink's colours through a mask. Words that were read lie over their page, unseen, tagged as paragraphs. By the rules of PDF/A-2b, or encrypted (AES-256, ISO 32000-2, 7.6).
 */
export async function writePdf(pages: readonly PageImage[], meta: PdfMeta): Promise<Uint8Array> {
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
  const embedded = new Map<Uint8Array, ReturnType<typeof context.register>>();
  for (const image of pages) {
    const width = image.widthMm * pointsPerMm;
    const height = image.heightMm * pointsPerMm;
    const page = pdf.addPage([width, height]);
    let reference = embedded.get(image.bytes);
    if (!reference) {
      reference =
        image.kind === 'layered' ? inkOver(context, image) : context.register(context.stream(image.bytes, dictionaryOf(image)));
      embedded.set(image.bytes, reference);
    }
    page.node.setXObject(PDFName.of('Page'), reference);
    const under = image.kind === 'layered' ? '/Under Do ' : '';
    if (image.kind === 'layered')
      page.node.setXObject(
        PDFName.of('Under'),
        context.register(context.stream(image.background.bytes, jpegOf(image.background))),
      );
    const picture = `q ${round(width)} 0 0 ${round(height)} 0 0 cm ${under}/Page Do Q`;
    // Beside words that say what stands in it the picture is none of what is read out.
    const drawing = hasWords ? `/Artifact BMC ${picture} EMC` : picture;
    const words = image.words ? layer.write(page, image.words, image.heightMm) : '';
    page.node.set(
      PDFName.of('Contents'),
      context.register(words ? context.flateStream(`${drawing}\n${words}`) : context.stream(drawing)),
    );
  }
  layer.end();
  tags.end();
  if (meta.password) pdf.encrypt({ userPassword: meta.password, ownerPassword: meta.password });
  else makeArchival(pdf, meta);
  return pdf.save({ useObjectStreams: false });
}

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

/** The ink's colours, seen where the mask has ink (explicit masking, ISO 32000-1, 8.9.6.3). */
function inkOver(context: PDFContext, { ink, bytes, maskWidth: width, maskHeight: height }: PageImage & LayeredImage): PDFRef {
  const mask = context.register(context.stream(bytes, { ...group4Of({ width, height }), ImageMask: true }));
  return context.register(context.stream(ink.bytes, { ...jpegOf(ink), Mask: mask }));
}
