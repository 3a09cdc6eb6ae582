import { PDFHexString, PDFName, PDFString, type PDFDocument } from '@cantoo/pdf-lib';
import { srgbProfile } from './srgb';
import { xml } from './words/html';

/**
 * Makes a document one for the archive, by the rules of PDF/A-2b (ISO 19005-2:2011; from memory of the standard): what its colours mean (6.2.3), what it is in XMP that
 * says the same as its information dictionary (6.6.2, 6.6.3, 6.6.4), and an identifier in the trailer (6.1.3).
 */
export function makeArchival(
  pdf: PDFDocument,
  { title, created, changed }: { title: string; created: Date; changed: Date },
): void {
  const { context, catalog } = pdf;
  const profile = context.register(context.flateStream(srgbProfile(), { N: 3 }));
  const intent = context.obj({ Type: 'OutputIntent', S: 'GTS_PDFA1', OutputConditionIdentifier: PDFString.of('sRGB'), Info: PDFString.of('sRGB IEC61966-2.1'), DestOutputProfile: profile }); // prettier-ignore
  catalog.set(PDFName.of('OutputIntents'), context.obj([intent]));
  const packet = new TextEncoder().encode(xmp(title, created, changed));
  // Not compressed, so that it can be found by programs that know no PDF (6.6.2.1).
  catalog.set(PDFName.of('Metadata'), context.register(context.stream(packet, { Type: 'Metadata', Subtype: 'XML' })));
  const id = PDFHexString.of(digest(`${title} ${created.toISOString()} ${changed.toISOString()}`));
  context.trailerInfo.ID = context.obj([id, id]);
}

/** As the information dictionary has them: to the second. */
const instant = (date: Date) => `${date.toISOString().slice(0, 19)}Z`;

const xmp = (title: string, created: Date, changed: Date) => `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/" pdfaid:part="2" pdfaid:conformance="B"/>
<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title><rdf:Alt><rdf:li xml:lang="x-default">${xml(title)}</rdf:li></rdf:Alt></dc:title></rdf:Description>
<rdf:Description rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmp:CreateDate="${instant(created)}" xmp:ModifyDate="${instant(changed)}" xmp:CreatorTool="Libretto"/>
<rdf:Description rdf:about="" xmlns:pdf="http://ns.adobe.com/pdf/1.3/" pdf:Producer="Libretto"/>
</rdf:RDF></x:xmpmeta>
<?xpacket end="r"?>`;

/** 128 bits that differ from file to file; nothing is kept safe by them (FNV-1a, four times from other beginnings). */
function digest(text: string): string {
  return [0x811c9dc5, 0x01000193, 0x9e3779b9, 0x85ebca6b].map((start) => {
    let hash = start;
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
    return hash.toString(16).padStart(8, '0');
  }).join(''); // prettier-ignore
}
