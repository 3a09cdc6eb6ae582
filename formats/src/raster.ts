/** What turns pixels into bytes, without the PDF writer: light enough for every worker. */
export { packBits, type Bits } from './bits';
export { encodeGroup4 } from './ccitt';
