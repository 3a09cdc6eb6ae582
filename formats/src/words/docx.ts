import { AlignmentType, Document, HeadingLevel, ImageRun, LevelFormat, Packer, Paragraph, Tab, Table, TableCell, TableRow, TextRun, WidthType } from 'docx'; // prettier-ignore
import type { Block, Content, Picture, TableRows } from '@libretto/model/content';

const levels = { 1: HeadingLevel.HEADING_1, 2: HeadingLevel.HEADING_2, 3: HeadingLevel.HEADING_3 } as const;
const ordered = 'ordered';

/** An Office Open XML text document (ECMA-376): headings, paragraphs, lists and tables as such; a page of paper begins on a new page. */
export async function writeDocx({ title, language, pages }: Content): Promise<Uint8Array> {
  let lists = 0;
  const children = pages.flatMap((blocks, i) => {
    const parts = blocks.flatMap((block) => asParts(block, () => lists++));
    if (!i) return parts;
    const [first, ...rest] = blocks;
    // A break belongs to a paragraph; a table has none.
    if (first && first.kind !== 'table' && first.kind !== 'list') return [...asParts(first, () => lists++, true), ...rest.flatMap((b) => asParts(b, () => lists++))]; // prettier-ignore
    return [new Paragraph({ pageBreakBefore: true, children: [] }), ...parts];
  });
  const document = new Document({
    title,
    creator: 'Libretto',
    styles: { default: { document: { run: { font: 'Calibri', size: 22, ...(language && { language: { value: language } }) } } } },
    numbering: {
      config: [
        {
          reference: ordered,
          levels: [{ level: 0, format: LevelFormat.DECIMAL, text: '%1.', alignment: AlignmentType.START, style: { paragraph: { indent: { left: 560, hanging: 360 } } } }], // prettier-ignore
        },
      ],
    },
    sections: [{ children: children.length ? children : [new Paragraph('')] }],
  });
  return new Uint8Array(await Packer.toArrayBuffer(document));
}

/** Width of the text on the writer's own paper, A4 with its usual margins, and px of CSS a mm, which it counts pictures in. */
const textMm = 159;
const pxPerMm = 96 / 25.4;

function image({ jpeg, widthMm, heightMm }: Picture): ImageRun {
  const scale = Math.min(1, textMm / widthMm) * pxPerMm;
  return new ImageRun({ type: 'jpg', data: jpeg, transformation: { width: Math.round(widthMm * scale), height: Math.round(heightMm * scale) } }); // prettier-ignore
}

function runs(text: string): TextRun[] {
  return text.split('\n').flatMap((line, i) => {
    const parts = line.split('\t');
    return parts.map((part, k) => new TextRun({ ...(i && !k && { break: 1 }), children: k ? [new Tab(), part] : [part] }));
  });
}

function asParts(block: Block, nextList: () => number, pageBreakBefore = false): (Paragraph | Table)[] {
  switch (block.kind) {
    case 'heading':
      return [new Paragraph({ heading: levels[block.level], pageBreakBefore, children: runs(block.text) })];
    case 'paragraph':
      return [new Paragraph({ pageBreakBefore, spacing: { after: 120 }, children: runs(block.text) })];
    case 'list': {
      const instance = nextList();
      return block.items.map(
        (item) =>
          new Paragraph({
            children: runs(item),
            ...(block.ordered ? { numbering: { reference: ordered, level: 0, instance } } : { bullet: { level: 0 } }),
          }),
      );
    }
    case 'picture':
      return [new Paragraph({ pageBreakBefore, spacing: { after: 120 }, children: [image(block.picture)] })];
    case 'table':
      // Two tables that follow each other would become one.
      return [asTable(block.rows), new Paragraph('')];
  }
}

function asTable(rows: TableRows): Table {
  return new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    rows: rows.map(
      (row, r) =>
        new TableRow({
          tableHeader: r === 0,
          children: row.flatMap((cell) =>
            cell
              ? [
                  new TableCell({
                    ...(cell.across && { columnSpan: cell.across }),
                    ...(cell.down && { rowSpan: cell.down }),
                    children: [new Paragraph({ children: runs(cell.text) })],
                  }),
                ]
              : [],
          ),
        }),
    ),
  });
}
