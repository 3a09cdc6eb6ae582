/**
 * Frees pixels that nobody needs any more, at once: garbage of tens of megabytes a picture is collected late, and a phone ends a page that holds too much. Where an
 * engine cannot, they are collected. Whoever reads them afterwards finds nothing.
 */
export function letGo({ buffer }: { readonly buffer: ArrayBufferLike }): void {
  (buffer as Partial<{ transfer: (bytes: number) => unknown }>).transfer?.(0);
}
