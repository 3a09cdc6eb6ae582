import type { PagePlaces } from './tableParts';
import type { Rect, Word } from './words';

/** Coloured fields that are written on are no pictures: share of an area that surely read words may cover. */
const mostWords = 0.05;

const centreIn = ({ x, y, width, height }: Rect, { box }: Word) => {
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  return cx >= x && cx < x + width && cy >= y && cy < y + height;
};
/** Specks and parts of pictures are read as words, unsurely. */
export const isSure = ({ confidence }: Word): boolean => confidence >= 0.6;

type Lines = PagePlaces['lines'];

/** Of areas in which a page's tones are kept (`pictureAreas` of the core) those that are pictures: not written all over. Any one unit of length. */
export function picturesAmong(areas: readonly Rect[], lines: Lines): Rect[] {
  const words = lines.flatMap((line) => line.words).filter(isSure);
  return areas.filter((area) => {
    const covered = words.filter((word) => centreIn(area, word)).reduce((sum, { box }) => sum + box.width * box.height, 0);
    return covered <= mostWords * area.width * area.height;
  });
}

/** Lines without what was read, unsurely, in pictures. */
export const withoutSpecks = (lines: Lines, pictures: readonly Rect[]): Lines =>
  pictures.length
    ? lines.flatMap((line) => {
        const words = line.words.filter((word) => isSure(word) || !pictures.some((picture) => centreIn(picture, word)));
        return words.length ? [{ words }] : [];
      })
    : lines;
