export { lighterTries, type Lighter } from './lighter';
export { packBits, type Bits } from './bits';
export { encodeGroup4 } from './ccitt';
export { jpegComponents, type PageImage, type SmallJpeg } from './pageImage';
export { bytesIn, bytesOf, joined, sizeOf, type Part } from './parts';
export { writePdf, type PdfMeta } from './pdf';
export type { LayerLine, LayerWord, PageWords } from './textLayer';
export { writeTiff, type Pixels, type TiffPage } from './tiff';
export { zipOf, type ZipEntry } from './zip';
