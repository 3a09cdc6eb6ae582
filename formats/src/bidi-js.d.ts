declare module 'bidi-js' {
  interface Bidi {
    getEmbeddingLevels(text: string, base?: 'ltr' | 'rtl'): { levels: Uint8Array; paragraphs: unknown[] };
    getReorderedString(text: string, levels: { levels: Uint8Array; paragraphs: unknown[] }): string;
    getBidiCharTypeName(character: string): string;
  }
  export default function bidiFactory(): Bidi;
}
