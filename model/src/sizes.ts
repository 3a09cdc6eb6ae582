/** "2.1 MB", as people say it: decimal units, two figures. */
export function bytesInWords(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  return `${(bytes / 1e6).toFixed(bytes < 9.95e6 ? 1 : 0)} MB`;
}

/** Bytes of a file once it is base64 in lines of 76 characters with CRLF (RFC 2045, 6.8). */
export function mailBytes(bytes: number): number {
  const characters = Math.ceil(bytes / 3) * 4;
  return characters + 2 * Math.ceil(characters / 76);
}

/** Mail systems commonly refuse more than 20–25 MB once encoded (common practice); the lower figure is used. */
export const mailLimitBytes = 20_000_000;

export function fitsMail(bytes: number): boolean {
  return mailBytes(bytes) <= mailLimitBytes;
}
