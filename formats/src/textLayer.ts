import { PDFName, PDFString, type PDFDocument, type PDFPage, type PDFRef } from '@cantoo/pdf-lib';
import { asItStands, runsLeft } from './direction';
import { glyph, glyphlessFont } from './glyphless';
import { goesOn, type Tags } from './tags';

/** A word and where it stands on the page, mm from its top left. */
export interface LayerWord {
  text: string;
  x: number;
  y: number;
  width: number;
  height: number;
}
export type LayerLine = readonly LayerWord[];

/** What stands on a page, line by line as it is read. */
export interface PageWords {
  lines: readonly LayerLine[];
  /** BCP 47. */
  language?: string;
}

const pointsPerMm = 72 / 25.4;

/** A word that goes on in the next line ends with a soft hyphen (ISO 32000-1, 14.8.2.2.3), so that it is found and copied as one. */
const parted = (text: string, next = '') =>
  /\p{L}[-‐]$/u.test(text) && /^\p{Ll}/u.test(next) ? `${text.slice(0, -1)}\u00ad` : text;

/**
 * Invisible words over the pages of one PDF (ISO 32000-1, 9.3.6, rendering mode 3), so that it can be searched and copied from. One font without shapes
 * serves every script: each character that occurs gets a code, and the font says which character that is (9.10.3, ToUnicode).
 */
export class TextLayer {
  private readonly codes = new Map<string, number>();
  private readonly font: PDFRef;

  constructor(
    private readonly pdf: PDFDocument,
    private readonly tags: Tags,
  ) {
    this.font = pdf.context.nextRef();
  }

  /** The drawing of a page's words, and the font among its resources. */
  write(page: PDFPage, { lines }: PageWords, heightMm: number): string {
    const out = ['BT 3 Tr'];
    for (const [at, line] of lines.entries()) {
      if (!line.length) continue;
      const size = Math.max(1, upperQuartile(line.map((w) => w.height)) * pointsPerMm);
      const level = levelOf(line);
      const left = runsLeft(line.map((w) => w.text).join(' '));
      out.push(this.tags.begin(page, goesOn(lines[at - 1] ?? [], line)));
      line.forEach((word, i) => {
        const text = i === line.length - 1 ? parted(word.text, lines[at + 1]?.[0]?.text) : word.text;
        // Who takes words out of a PDF expects them as they stand, from left to right.
        const characters = [...asItStands(text.normalize('NFC'), left)];
        if (!characters.length) return;
        const middle = heightMm - level(word.x + word.width / 2);
        const base = middle * pointsPerMm - ((glyph.ascent + glyph.descent) / 2000) * size;
        const across = (100 * word.width * pointsPerMm) / ((characters.length * glyph.width * size) / 1000);
        const space = i < line.length - 1 ? [' '] : [];
        const codes = [...(left ? space : []), ...characters, ...(left ? [] : space)].map((c) => this.codeOf(c)).join('');
        const x = word.x - (left && space.length ? word.width / characters.length : 0);
        out.push(
          `/Words ${fixed(size)} Tf ${fixed(across)} Tz 1 0 0 1 ${fixed(x * pointsPerMm)} ${fixed(base)} Tm <${codes}> Tj`,
        );
      });
      out.push('EMC');
    }
    if (out.length === 1) return '';
    out.push('ET');
    page.node.setFontDictionary(PDFName.of('Words'), this.font);
    return out.join('\n');
  }

  private codeOf(character: string): string {
    let code = this.codes.get(character);
    if (code === undefined) this.codes.set(character, (code = this.codes.size + 1));
    return hex(code);
  }

  /** The font, once all pages are written. */
  end(): void {
    if (!this.codes.size) return;
    const { context } = this.pdf;
    const name = 'LibrettoWords';
    const program = glyphlessFont();
    const file = context.register(context.flateStream(program, { Length1: program.length }));
    const descriptor = context.register(
      context.obj({
        Type: 'FontDescriptor', FontName: name, Flags: 4, FontBBox: [0, glyph.descent, glyph.width, glyph.ascent], ItalicAngle: 0,
        Ascent: glyph.ascent, Descent: glyph.descent, CapHeight: glyph.ascent, StemV: 80, FontFile2: file,
      }),
    ); // prettier-ignore
    const glyphs = new Uint8Array(2 * (this.codes.size + 1));
    for (let i = 1; i <= this.codes.size; i++) glyphs[2 * i + 1] = 1;
    const descendant = context.register(
      context.obj({
        Type: 'Font', Subtype: 'CIDFontType2', BaseFont: name, DW: glyph.width, FontDescriptor: descriptor,
        CIDToGIDMap: context.register(context.flateStream(glyphs)),
        CIDSystemInfo: { Registry: PDFString.of('Adobe'), Ordering: PDFString.of('Identity'), Supplement: 0 },
      }),
    ); // prettier-ignore
    context.assign(
      this.font,
      context.obj({
        Type: 'Font', Subtype: 'Type0', BaseFont: name, Encoding: 'Identity-H', DescendantFonts: [descendant],
        ToUnicode: context.register(context.flateStream(this.toUnicode())),
      }),
    ); // prettier-ignore
  }

  /** Which character each code is; a hundred a block, as the format has it. */
  private toUnicode(): string {
    const entries = [...this.codes].map(([character, code]) => `<${hex(code)}> <${utf16(character)}>`);
    const blocks: string[] = [];
    for (let i = 0; i < entries.length; i += 100) {
      const some = entries.slice(i, i + 100);
      blocks.push(`${some.length} beginbfchar\n${some.join('\n')}\nendbfchar`);
    }
    return `/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def
/CMapName /Libretto-Words def
/CMapType 2 def
1 begincodespacerange
<0000> <FFFF>
endcodespacerange
${blocks.join('\n')}
endcmap
CMapName currentdict /CMap defineresource pop
end
end`;
  }
}

const hex = (code: number) => code.toString(16).toUpperCase().padStart(4, '0');
const utf16 = (character: string) => Array.from({ length: character.length }, (_, i) => hex(character.charCodeAt(i))).join('');
const fixed = (v: number) => String(Math.round(v * 1000) / 1000);

function upperQuartile(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(0.75 * (sorted.length - 1))]!;
}

/** How high a line runs: level, or with the slope of its words' middles (least squares). */
function levelOf(line: LayerLine): (x: number) => number {
  const at = line.map((w) => [w.x + w.width / 2, w.y + w.height / 2] as const);
  const [mx, my] = [0, 1].map((k) => at.reduce((s, p) => s + p[k]!, 0) / at.length) as [number, number];
  const spread = at.reduce((s, [x]) => s + (x - mx) ** 2, 0);
  const slope = line.length > 3 && spread ? at.reduce((s, [x, y]) => s + (x - mx) * (y - my), 0) / spread : 0;
  return (x) => my + slope * (x - mx);
}
