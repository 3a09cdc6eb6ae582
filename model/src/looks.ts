import type { Page } from './records';

/** 53 bits of a text, in base 36: short names for cached images (cyrb53, public domain; a cache key, not a digest). */
export function shortHash(text: string): string {
  let a = 0xdeadbeef;
  let b = 0x41c6ce57;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36);
}

const looks = new WeakMap<object, string>();

/** Names all of a page that decides its pixels: its photo and its recipe. Empty while it has none. */
export function lookOf(page: Page): string {
  if (!page.recipe) return '';
  const known = looks.get(page);
  if (known) return known;
  const { outline, turn, filter, size, adjust, mirror, tidy, touches, marks } = page.recipe;
  const { quad, polygon, source } = outline;
  const look = shortHash(
    JSON.stringify([
      page.photoId,
      quad,
      polygon,
      source,
      turn,
      filter,
      size,
      adjust,
      mirror,
      tidy,
      touches,
      page.alone,
      ...(marks?.length ? [marks] : []),
    ]),
  );
  looks.set(page, look);
  return look;
}
