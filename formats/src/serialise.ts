import {
  PDFCrossRefSection,
  PDFName,
  PDFNumber,
  PDFStream,
  PDFTrailer,
  PDFTrailerDict,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';
import { bytesIn, type Part } from './parts';

interface Written {
  sizeInBytes(): number;
  copyBytesInto(buffer: Uint8Array, offset: number): number;
}

/**
 * The document as a file in pieces (ISO 32000-1, 7.5): header, objects, cross-reference table, trailer. The contents of the streams in `outside` go in by reference, so that memory does not
 * grow with the pages' pictures.
 */
export async function serialised(pdf: PDFDocument, outside: ReadonlyMap<PDFObject, Part>): Promise<Part[]> {
  await pdf.flush();
  const { context } = pdf;
  const parts: Part[] = [];
  let near: Uint8Array[] = [];
  let at = 0;
  const put = (bytes: Uint8Array) => {
    near.push(bytes);
    at += bytes.length;
  };
  const text = (latin1: string) => put(Uint8Array.from(latin1, (c) => c.charCodeAt(0)));
  const object = (written: Written) => {
    const bytes = new Uint8Array(written.sizeInBytes());
    written.copyBytesInto(bytes, 0);
    put(bytes);
  };
  const settle = () => {
    const whole = new Uint8Array(near.reduce((sum, bytes) => sum + bytes.length, 0));
    let offset = 0;
    for (const bytes of near) {
      whole.set(bytes, offset);
      offset += bytes.length;
    }
    if (whole.length) parts.push(whole);
    near = [];
  };

  object(context.header);
  text('\n\n');
  const table = PDFCrossRefSection.create();
  for (const [ref, value] of context.enumerateIndirectObjects()) {
    table.addEntry(ref, at);
    text(`${ref.objectNumber} ${ref.generationNumber} obj\n`);
    const contents = outside.get(value);
    if (contents && value instanceof PDFStream) {
      value.dict.set(PDFName.of('Length'), PDFNumber.of(bytesIn(contents)));
      object(value.dict);
      text('\nstream\n');
      settle();
      parts.push(contents);
      at += bytesIn(contents);
      text('\nendstream');
    } else object(value);
    text('\nendobj\n\n');
  }
  const tableAt = at;
  object(table);
  text('\n');
  const { Root, Info, ID } = context.trailerInfo;
  object(PDFTrailerDict.of(context.obj({ Size: context.largestObjectNumber + 1, Root, Info, ID })));
  text('\n\n');
  object(PDFTrailer.forLastCrossRefSectionOffset(tableAt));
  settle();
  return parts;
}
