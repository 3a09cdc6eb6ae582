import type { Photo } from '@libretto/model';
import type { BroughtWord } from '../store/files';

/** A page as a picture, and what its file says of it. */
export interface DrawnPage {
  blob: Blob;
  type: Photo['type'];
  width: number;
  height: number;
  words: readonly BroughtWord[];
  /** Clockwise, until it stands upright. */
  turn: 0 | 90 | 180 | 270;
  /** Its size before it is turned; null where the file does not say: it may be a photograph. */
  paper: { widthMm: number; heightMm: number } | null;
}

/** What reads a file of pages, in a worker of its own. */
export interface PagesApi {
  /** Opens a file and tells how many pages it has; what is wrong with it otherwise. */
  open(bytes: ArrayBuffer): Promise<{ pages: number } | { problem: 'password' | 'damaged' }>;
  /** One page, from 1. */
  page(number: number): Promise<DrawnPage>;
}
