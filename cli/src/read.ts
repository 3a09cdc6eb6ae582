import path from 'node:path';
import { parseArgs } from 'node:util';
import { analysePage, findPages, finish, flatten, wholeAsRead, type Point } from '@libretto/core';
import { languageIds, languages, onPaper, readPage, tablesIn, type Language, type PageText, type Rect } from '@libretto/text';
import { plainRows } from '@libretto/model/content';
import { nodeEngine } from './engine';
import { complain, decode } from './decode';

type Corners = [Point, Point, Point, Point];

/** Prints one JSON line a page: its language, its text, and its words with their corners in photo pixels, and its tables by rows. Exit code 1 when any file failed; the others are still done. */
export async function readCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { page: { type: 'boolean', default: false }, language: { type: 'string' } },
  });
  const wanted = values.language && languageIds.find((id) => id === values.language || languages[id] === values.language);
  const problem = !positionals.length
    ? 'name at least one file'
    : values.language && !wanted
      ? `no language "${values.language}"; there are ${Object.values(languages).join(', ')}`
      : '';
  if (problem) {
    console.error(`read: ${problem}`);
    return 1;
  }
  const engine = nodeEngine();
  const options = wanted ? { language: wanted as Language, sure: true } : {};
  let code = 0;
  for (const file of positionals) {
    try {
      const photo = await decode(file);
      const tell = (page: number, text: PageText, mmPerPx: number, corners: (box: Rect) => Corners) => {
        const words = text.lines.flatMap((line) =>
          line.words.map((w) => ({ text: w.text, box: corners(w.box), confidence: Math.round(w.confidence * 1000) / 1000 })),
        );
        const unread = Math.round(text.unread * 1000) / 1000;
        console.log(
          JSON.stringify({
            file: path.basename(file),
            page,
            language: languages[text.language],
            text: text.text,
            words,
            tables: tablesIn(onPaper(text, mmPerPx, mmPerPx)).tables.map((table) => plainRows(table.rows)),
            ...(unread && { unread }),
          }),
        );
      };
      if (values.page) {
        // A finished page: A4 across, if its file does not say otherwise.
        const widthMm = photo.dpi ? (photo.width / photo.dpi) * 25.4 : 210;
        tell(1, await readPage(photo, engine, { ...options, widthMm }), widthMm / photo.width, ({ x, y, width, height }) => [[x, y], [x + width, y], [x + width, y + height], [x, y + height]]); // prettier-ignore
        continue;
      }
      const outlines = findPages(photo);
      const alone = outlines.length < 2 || outlines.every((o) => o.spread);
      const pages = outlines.length ? outlines : [{ ...wholeAsRead(photo), whole: true, polygon: undefined }];
      for (const [i, outline] of pages.entries()) {
        const recipe = {
          quad: outline.quad,
          ...('whole' in outline && { whole: true }),
          ...(outline.polygon && { polygon: outline.polygon }),
          turn: 0 as const,
        };
        const flat = flatten(photo, recipe, { alone, ...(photo.focal35mm && { focal35mm: photo.focal35mm }) });
        const { image } = finish(flat, { filter: 'grey' }, analysePage(flat));
        const place = (x: number, y: number): Point => {
          const [px, py] = flat.map.toPhoto([x / image.width, y / image.height]);
          return [Math.round(px * 10) / 10, Math.round(py * 10) / 10];
        };
        const corners = ({ x, y, width, height }: Rect): Corners => [place(x, y), place(x + width, y), place(x + width, y + height), place(x, y + height)]; // prettier-ignore
        tell(i + 1, await readPage(image, engine, { ...options, widthMm: flat.widthMm }), flat.widthMm / image.width, corners);
      }
    } catch (error) {
      complain(file, error);
      code = 1;
    }
  }
  await engine.end();
  return code;
}
