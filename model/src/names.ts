import { fileEndings } from './lists';

/** Longest file name without extension, in UTF-8 bytes: most file systems take 255 a name, and room is left for "(2)" and a part suffix. */
const longestBytes = 180;

/** Names that Windows keeps for devices, whatever the extension (Microsoft, "Naming Files, Paths, and Namespaces"). */
const reserved = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$/i;

/**
 * What is not seen: control characters, marks that turn the reading direction or have no width, tags, fillers that look like nothing (Unicode's Default_Ignorable_Code_Point but for
 * the joiner and selectors that emoji are made of).
 */
const unseen =
  /[\u0000-\u001f\u007f-\u009f\u00ad\u034f\u061c\u115f\u1160\u17b4\u17b5\u180b-\u180f\u200b\u200c\u200e\u200f\u2028-\u202e\u2060-\u206f\u3164\ufe00-\ufe0e\ufeff\uffa0\ufff0-\ufffb\u{1bca0}-\u{1bca3}\u{1d173}-\u{1d17a}\u{e0000}-\u{e0fff}]/gu;

/**
 * A file name that every common system and cloud folder accepts: no control, direction or path characters, no leading dot or
 * trailing dot or space, no device name, NFC, not too long. What was typed stays readable: forbidden characters become "-".
 */
export function safeFileName(name: string, extension: string): string {
  let stem = name
    .normalize('NFC')
    .replace(unseen, ' ')
    // A half of a character has no bytes in UTF-8.
    .replace(/\p{Surrogate}/gu, '-')
    .replace(/[<>:"/\\|?*]/g, '-')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/^[.\s]+/, '');
  stem = cutToBytes(stem, longestBytes).replace(/[.\s]+$/, '');
  if (!stem) stem = 'Untitled';
  if (reserved.test(stem.split('.')[0]!.trim())) stem = `_${stem}`;
  return `${stem}.${extension}`;
}

/** Whether a name can be used for a file as it is. */
export function isSafeFileName(name: string): boolean {
  const dot = name.lastIndexOf('.');
  return dot > 0 && name === safeFileName(name.slice(0, dot), name.slice(dot + 1)) && fileEndings.has(name.slice(dot + 1));
}

/** The nth name when the first is taken: "Docket.pdf", "Docket (2).pdf", … */
export function numberedName(fileName: string, n: number): string {
  if (n < 2) return fileName;
  const dot = fileName.lastIndexOf('.');
  return `${fileName.slice(0, dot)} (${n})${fileName.slice(dot)}`;
}

function cutToBytes(text: string, most: number): string {
  let size = 0;
  let out = '';
  for (const character of text) {
    const point = character.codePointAt(0)!;
    size += point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4;
    if (size > most) break;
    out += character;
  }
  return out;
}

/** The name a document gets before anybody names it: the date sorts well. */
export function firstName(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())} Scan ${two(at.getHours())}.${two(at.getMinutes())}`;
}

/** Whether nobody has named it yet: what `firstName` gives. */
const unnamed = /^(\d{4}-\d{2}-\d{2}) Scan \d{2}\.\d{2}$/;

export const isUnnamed = (name: string): boolean => unnamed.test(name);

/** A name with a part that was read off the page: a date comes to its front, in place of the one there; what else it is is added. What nobody has named gets it instead of "Scan". */
export function nameWith(name: string, { kind, text }: { kind: 'date' | 'sender' | 'title' | 'number'; text: string }): string {
  const fresh = unnamed.exec(name);
  const base = fresh ? fresh[1]! : name.trim();
  if (kind === 'date') return `${text} ${base.replace(/^\d{4}-\d{2}-\d{2}\s*/, '') || (fresh ? name.slice(11) : '')}`.trim();
  return base.toLowerCase().includes(text.toLowerCase()) ? base : `${base} ${text}`.trim().slice(0, 200);
}
