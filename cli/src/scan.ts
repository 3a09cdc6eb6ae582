import { randomUUID } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { analysePage, findPages, finish, flatten, sidesNear, wholeAsRead, type Filter, type Outline } from '@libretto/core';
import { joined, sizeOf, writePdf, writeTiff, zipOf, type PageImage, type TiffPage } from '@libretto/formats';
import { wordFormats, writeWords } from '@libretto/formats/words/index';
import type { Block } from '@libretto/model/content';
import { blocksOf, languages, onPaper, readPage, withTablesJoined, type PageText } from '@libretto/text';
import { wordsOf } from '@libretto/text/layer';
import { nodeEngine } from './engine';
import { complain, decode } from './decode';
import { asTiffPage, jpeg, keptPage, layered, pdfPage, pdfUnder, picturesOn, png, type KeptPage } from './encode';

const filters = ['auto', 'original', 'even-light', 'grey', 'ink', 'board', 'picture'] as const;

/** Writes each page as PNG into a folder, or all pages as one PDF or TIFF, or as pictures by themselves or in a ZIP, or what stands on them as text, Markdown, web page, text document, book or workbook, by the ending of `--out`. Exit code 1 when any photo failed; the others are still done. */
export async function scanCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      filter: { type: 'string', default: 'auto' },
      dpi: { type: 'string', default: '300' },
      quads: { type: 'string' },
      text: { type: 'boolean', default: false },
      'password-env': { type: 'string' },
      layered: { type: 'boolean', default: false },
      under: { type: 'string' },
    },
  });
  const filter = filters.find((f) => f === values.filter);
  const dpi = Number(values.dpi);
  const under = Number(values.under);
  const problem = !positionals.length
    ? 'name at least one photo'
    : !values.out
      ? 'say where to with --out'
      : !filter
        ? `no filter "${values.filter}"; there are ${filters.join(', ')}`
        : !(dpi >= 30 && dpi <= 1200)
          ? `--dpi takes 30 to 1200, received "${values.dpi}"`
          : values['password-env'] && !process.env[values['password-env']]
            ? `--password-env: ${values['password-env']} is not set`
            : values['password-env'] && path.extname(values.out).toLowerCase() !== '.pdf'
              ? 'only a PDF takes a password'
              : values.under !== undefined && !(under > 0)
                ? `--under takes megabytes, received "${values.under}"`
                : (values.layered || values.under !== undefined) && path.extname(values.out).toLowerCase() !== '.pdf'
                  ? 'only a PDF is layered, or made lighter'
                  : '';
  if (problem) {
    console.error(`scan: ${problem}`);
    return 1;
  }
  const out = values.out!;
  const password = values['password-env'] && process.env[values['password-env']];
  const ending = path.extname(out).toLowerCase();
  const [asPdf, asTiff] = [ending === '.pdf', ending === '.tif' || ending === '.tiff'];
  const asWords = wordFormats.find((format) => ending === `.${format}`);
  const asPictures = /^\.(zip|png|jpe?g)$/.test(ending);
  const asFile = asPdf || asTiff || asWords || asPictures;
  if (!asFile) await mkdir(out, { recursive: true });
  const given = values.quads ? await readQuads(values.quads) : null;
  const engine = asWords || (values.text && asPdf) ? nodeEngine() : null;
  let code = 0;
  const images: PageImage[] = [];
  const kept: KeptPage[] = [];
  const tiff: TiffPage[] = [];
  const pictures: Buffer[] = [];
  const texts: Block[][] = [];
  let language: PageText['language'] | undefined;
  for (const file of positionals) {
    try {
      const photo = await decode(file);
      const outlines = given ? given.get(path.basename(file)) : findPages(photo);
      if (!outlines) throw new Error(`no outlines for it in ${values.quads}`);
      const alone = outlines.length < 2 || outlines.every((o) => o.spread);
      // As in the app: what shows no edge is perhaps all page, and is not lost.
      if (!outlines.length) console.error(`${file}: no page found, the whole photo is taken`);
      const pages: (Given & { whole?: boolean })[] = outlines.length ? outlines : [{ ...wholeAsRead(photo), whole: true }];
      for (const [i, { quad, polygon: known, whole }] of pages.entries()) {
        // Corners alone say nothing of a curve: it is looked for along the sides.
        const polygon = known ?? (given && !whole ? sidesNear(photo, quad) : undefined);
        const recipe = { quad, ...(whole && { whole }), ...(polygon && { polygon }), turn: 0 as const };
        const flat = flatten(photo, recipe, { dpi, alone, ...(photo.focal35mm && { focal35mm: photo.focal35mm }) });
        const analysis = analysePage(flat);
        const page = finish(flat, { filter: filter as Filter | 'auto' }, analysis);
        const readable = engine && finish(flat, { filter: 'grey' }, analysis).image;
        const read = readable && (await readPage(readable, engine, page));
        if (asWords) {
          const perPx = page.widthMm / readable!.width;
          const places = onPaper(read!, perPx, perPx);
          texts.push(blocksOf(places, await picturesOn(page, analysis, places)).blocks);
          language ??= read!.language;
          continue;
        }
        if (asTiff) tiff.push(asTiffPage(page));
        else if (asPdf) {
          const worded = { ...page, ...(read && { words: wordsOf(read, page) }) };
          if (values.under === undefined) images.push(await pdfPage(worded, values.layered ? layered : undefined));
          else kept.push(await keptPage(worded));
        } else if (asPictures) pictures.push(await (ending.startsWith('.j') ? jpeg(page) : png(page)));
        else await writeFile(path.join(out, `${path.parse(file).name}-${i + 1}.png`), await png(page));
      }
    } catch (error) {
      complain(file, error);
      code = 1;
    }
  }
  await engine?.end();
  if (asFile) {
    if (!images.length && !kept.length && !tiff.length && !texts.length && !pictures.length) {
      console.error(`${out}: not written, there is no page`);
      return 1;
    }
    const now = new Date();
    const title = path.parse(out).name;
    if (asWords) {
      const content = { title, ...(language && { language: languages[language] }), pages: withTablesJoined(texts) };
      if (asWords === 'xlsx' && !texts.flat().some((block) => block.kind === 'table')) {
        console.error(`${out}: not written, there is no table`);
        return 1;
      }
      await writeFile(out, await writeWords(asWords, content, { id: `urn:uuid:${randomUUID()}`, changed: now }));
    } else if (asPictures) {
      // Numbered, all as long, so that they sort.
      const digits = String(pictures.length).length;
      const nameOf = (i: number, as: string) =>
        `${title}${pictures.length > 1 ? `-${String(i + 1).padStart(digits, '0')}` : ''}${as}`;
      if (ending === '.zip')
        await writeFile(out, await joined(await zipOf(pictures.map((content, i) => ({ name: nameOf(i, '.png'), content })))));
      else
        for (const [i, bytes] of pictures.entries())
          await writeFile(path.join(path.dirname(out), nameOf(i, path.extname(out))), bytes);
    } else if (asTiff) await writeFile(out, await joined(await writeTiff(tiff, tiff.length, title)));
    else {
      const meta = { title, created: now, changed: now, ...(password && { password }) };
      const { parts, fits } =
        values.under === undefined
          ? { parts: await writePdf(images, meta), fits: true }
          : await pdfUnder(kept, meta, under * 1e6, values.layered ? layered : undefined);
      await writeFile(out, await joined(parts));
      if (!fits) {
        console.error(
          `${out}: ${(sizeOf(parts) / 1e6).toFixed(2)} MB is as small as it becomes; try --filter ink, or fewer pages`,
        );
        code = 1;
      }
    }
  }
  return code;
}

type Given = Pick<Outline, 'quad' | 'polygon' | 'spread'>;

async function readQuads(file: string): Promise<Map<string, Given[]>> {
  const lines = (await readFile(file, 'utf8')).split('\n').filter((l) => l.trim());
  return new Map(
    lines.map((line, i) => {
      try {
        const { file: name, pages } = JSON.parse(line) as { file: string; pages: Given[] };
        return [path.basename(name), pages];
      } catch {
        throw new Error(`${file}, line ${i + 1}: not what "find" prints`);
      }
    }),
  );
}
