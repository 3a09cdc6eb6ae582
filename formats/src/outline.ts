import { PDFHexString, PDFName, PDFString, type PDFDocument } from '@cantoo/pdf-lib';

/**
 * The parts of a joined document: an entry of the outline each (ISO 32000-1, 12.3.3), and pages labelled by part and page, as "2-1" (12.4.2). Nothing where
 * no page begins a part.
 *
 * @param title of what stands before the first part.
 */
export function writeOutline(pdf: PDFDocument, pages: readonly { begins?: string }[], title: string): void {
  const starts = pages.flatMap(({ begins }, page) => (page === 0 || begins ? [{ page, name: begins ?? title }] : []));
  if (!pages.some(({ begins }) => begins)) return;
  const { context, catalog } = pdf;
  const outline = context.nextRef();
  const entries = starts.map(() => context.nextRef());
  for (const [i, { page, name }] of starts.entries()) {
    const beside = { ...(i > 0 && { Prev: entries[i - 1]! }), ...(i < entries.length - 1 && { Next: entries[i + 1]! }) };
    context.assign(entries[i]!, context.obj({ Title: PDFHexString.fromText(name), Parent: outline, Dest: [pdf.getPage(page).ref, 'Fit'], ...beside })); // prettier-ignore
  }
  context.assign(outline, context.obj({ Type: 'Outlines', First: entries[0]!, Last: entries.at(-1)!, Count: entries.length }));
  catalog.set(PDFName.of('Outlines'), outline);
  const labels = starts.flatMap(({ page }, i) => [page, { S: 'D', P: PDFString.of(`${i + 1}-`) }]);
  catalog.set(PDFName.of('PageLabels'), context.obj({ Nums: labels }));
}
