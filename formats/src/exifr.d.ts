/** The small build reads JPEG only and gives raw tag numbers. */
declare module 'exifr/dist/mini.umd.js' {
  const exifr: { parse(input: Uint8Array): Promise<Record<number, unknown> | undefined> };
  export default exifr;
}
