import { zipSync } from 'fflate';

/** Files as one ZIP (PKWARE's APPNOTE 6.3), as they are: pictures are packed already. */
export const zipOf = (files: readonly { name: string; bytes: Uint8Array }[]): Uint8Array =>
  zipSync(Object.fromEntries(files.map(({ name, bytes }) => [name, [bytes, { level: 0 }]])));
