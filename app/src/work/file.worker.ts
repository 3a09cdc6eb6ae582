import * as Comlink from 'comlink';
import { jpegComponents, writePdf, type PageImage, type PageWords } from '@libretto/formats';

export interface FilePage {
  blob: Blob;
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
  words?: PageWords;
}

const api = {
  /** One PDF of finished pages, and its SHA-256. */
  async pdf(pages: readonly FilePage[], title: string, created: number, changed: number) {
    const images = await Promise.all(
      pages.map(async ({ blob, ...size }): Promise<PageImage> => {
        const bytes = new Uint8Array(await blob.arrayBuffer());
        return blob.type === 'image/x-group4'
          ? { ...size, kind: 'group4', bytes }
          : { ...size, kind: 'jpeg', components: jpegComponents(bytes) === 1 ? 1 : 3, bytes };
      }),
    );
    const bytes = await writePdf(images, { title, created: new Date(created), changed: new Date(changed) });
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes as BufferSource));
    return {
      blob: new Blob([bytes as BlobPart], { type: 'application/pdf' }),
      sha256: Array.from(digest, (b) => b.toString(16).padStart(2, '0')).join(''),
    };
  },
};

export type FileApi = typeof api;
Comlink.expose(api);
