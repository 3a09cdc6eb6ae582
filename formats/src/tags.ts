import { PDFName, type PDFDocument, type PDFPage, type PDFRef } from '@cantoo/pdf-lib';
import type { LayerLine } from './textLayer';

/** Lines of a paragraph are no further apart than so many times their height, and of about one height. */
const lineGap = 1.1;
const heightRatio = 1.4;

interface Extent {
  x: number;
  right: number;
  top: number;
  bottom: number;
  height: number;
}

const extentOf = (line: LayerLine): Extent => {
  const top = Math.min(...line.map((w) => w.y));
  const bottom = Math.max(...line.map((w) => w.y + w.height));
  return {
    x: Math.min(...line.map((w) => w.x)),
    right: Math.max(...line.map((w) => w.x + w.width)),
    top,
    bottom,
    height: Math.max(...line.map((w) => w.height)),
  };
};

/** Whether a line goes on what the one before began. */
export function goesOn(before: LayerLine, line: LayerLine): boolean {
  if (!before.length || !line.length) return false;
  const [a, b] = [extentOf(before), extentOf(line)];
  const gap = b.top - a.bottom;
  return (
    gap < lineGap * Math.max(a.height, b.height) &&
    gap > -0.5 * a.height &&
    Math.min(a.right, b.right) > Math.max(a.x, b.x) &&
    Math.max(a.height, b.height) < heightRatio * Math.min(a.height, b.height)
  );
}

/**
 * What a PDF's words are to whoever has them read out: a document of paragraphs in reading order (tagged PDF, ISO 32000-1, 14.7 and 14.8); the picture of the page is no content beside them.
 */
export class Tags {
  private readonly paragraphs: { page: PDFPage; marks: number[] }[] = [];
  private readonly counts = new Map<PDFPage, number>();
  constructor(private readonly pdf: PDFDocument) {}

  /** A line of a page: the sign before its drawing. @param on whether it goes on the paragraph before. */
  begin(page: PDFPage, on: boolean): string {
    const mark = this.counts.get(page) ?? 0;
    this.counts.set(page, mark + 1);
    const last = this.paragraphs.at(-1);
    if (on && last?.page === page) last.marks.push(mark);
    else this.paragraphs.push({ page, marks: [mark] });
    return `/P <</MCID ${mark}>> BDC`;
  }

  /** The tree of it all, once all pages are written. */
  end(): void {
    if (!this.paragraphs.length) return;
    const { context, catalog } = this.pdf;
    const [root, whole] = [context.nextRef(), context.nextRef()];
    const owners = new Map<PDFPage, PDFRef[]>();
    const kids = this.paragraphs.map(({ page, marks }) => {
      const element = context.register(context.obj({ S: 'P', P: whole, Pg: page.ref, K: marks.length > 1 ? marks : marks[0]! }));
      const own = owners.get(page) ?? [];
      owners.set(page, own);
      for (const mark of marks) own[mark] = element;
      return element;
    });
    context.assign(whole, context.obj({ S: 'Document', P: root, K: kids }));
    const numbers = [...owners].flatMap(([page, own], i) => {
      page.node.set(PDFName.of('StructParents'), context.obj(i));
      page.node.set(PDFName.of('Tabs'), PDFName.of('S'));
      return [context.obj(i), context.register(context.obj(own))];
    });
    const parents = context.register(context.obj({ Nums: numbers }));
    context.assign(root, context.obj({ Type: 'StructTreeRoot', K: whole, ParentTree: parents, ParentTreeNextKey: owners.size }));
    catalog.set(PDFName.of('StructTreeRoot'), root);
    catalog.set(PDFName.of('MarkInfo'), context.obj({ Marked: true }));
  }
}
