/**
 * Trains what tells bare paper from what is printed (`core/src/enhance/printed.ts`) and writes its weights: boosted trees on places of pages that our renderer photographs, and of development
 * photographs where a DIR of them is given. What is printed comes from three-fold cross-validation over pages.
 *
 *     tsx bench/src/trainPrinted.ts ROUNDS [DIR]      a round is a page of each kind; with CACHE=FILE what was seen is kept there, and the next run trains on it
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { flatten, type Quad, type Raster } from '@libretto/core';
import { withoutInk } from '@libretto/core/enhance/light';
import { groundOf } from '@libretto/core/enhance/paperColour';
import { placesOf, printedNames } from '@libretto/core/enhance/printed';
import { gaussian } from '@libretto/core/raster/blur';
import { lumaPlane } from '@libretto/core/raster/colour';
import { shrinkToEdge } from '@libretto/core/raster/resize';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import { probability, train, writeTrees } from './boosting';
import { flatPages } from './flatPages';
import { decode } from './photos';
import { below, inventedDesk, noPage } from './scenes/desks';
import { anyLight } from './scenes/light';
import { asPhonesDo } from './scenes/phone';
import { furtherLight, pageKinds, printedPage } from './scenes/printedPages';
import { rolls, type Roll } from './scenes/roll';
import { bare, printed, trueGround } from './scenes/trueGround';

interface Row {
  page: number;
  kind: string;
  numbers: number[];
  yes: boolean;
}

const placesPerPage = 200;
const count = printedNames.length;
const offPaper = printedNames.indexOf('off paper');
/** What is so clearly of another colour on paper is a finger or the like, which no clean page shows. */
const foreign = 0.22;

function* rowsOf(page: number, kind: string, flat: Raster, clean: Raster | null, roll: Roll): Generator<Row> {
  const small = shrinkToEdge(flat, 400);
  const smooth = gaussian(lumaPlane(small), 1.2);
  const { width, height, numbers } = placesOf(smooth, withoutInk(smooth), groundOf(small));
  const labels = clean ? trueGround(clean, { width, height }) : new Uint8Array(width * height).fill(printed);
  const told = [...labels.keys()].filter((i) => labels[i]);
  for (let n = 0; n < placesPerPage && told.length; n++) {
    const i = told[Math.floor(roll(0, told.length - 1e-6))]!;
    const own = [...numbers.subarray(i * count, (i + 1) * count)];
    if (labels[i] !== bare || own[offPaper]! < foreign) yield { page, kind, numbers: own, yes: labels[i] === printed };
  }
}

const flat = { kind: 'flat' } as const;

async function photographed(kind: (typeof pageKinds)[number], seed: number, roll: Roll) {
  const { picture, clean, widthMm, heightMm } = await printedPage(kind, roll);
  const dim = roll(0, 1) < 0.2 ? 0.4 : 1;
  const curl = roll(0, 1) < 0.2 ? ({ kind: 'curl', heightMm: roll(4, 16) } as const) : null;
  const desk = below(inventedDesk(roll), 0);
  const { photo, pages } = photograph(
    {
      desk: 'oak',
      sheets: [desk, { id: kind, picture, widthMm, heightMm, xMm: 0, yMm: 0, angle: roll(-6, 6), bend: curl ?? flat }],
      camera: { ...usualCamera, at: [0, 0], distance: Math.max(widthMm, heightMm) * roll(1.2, 1.6), tilt: roll(0, 25), azimuth: roll(0, 360), roll: widthMm > heightMm ? 90 : 0 }, // prettier-ignore
      light: anyLight(roll, dim),
      noise: dim < 1 ? roll(5, 9) : roll(1.5, 4.5),
      seed,
    },
    1050,
    1400,
  );
  const data = await sharp(await asPhonesDo(photo, roll).toBuffer())
    .raw()
    .toBuffer();
  const { quad, polygon } = pages.find((p) => p.id !== noPage)!;
  const outline = { quad: quad as unknown as Quad, ...(curl && { polygon }) };
  const seen = furtherLight({ ...photo, channels: 3, data }, roll);
  return { clean, page: flatten(seen, { ...outline, turn: 0, size: { widthMm, heightMm, name: null } }).image };
}

async function lookAll(rounds: number, dir?: string): Promise<Row[]> {
  const rows: Row[] = [];
  let page = 0;
  for (let round = 0; round < rounds; round++)
    for (const kind of pageKinds) {
      const roll = rolls(++page * 7368787 + 77123);
      roll(0, 1);
      const made = await photographed(kind, page, roll);
      rows.push(...rowsOf(page, kind, made.page, made.clean, roll));
    }
  if (!dir) return rows;
  for await (const { category, truth, flat } of flatPages(dir, { perCategory: 99 })) {
    // Of a slide on a screen nothing is paper.
    if (!truth.flat || category === 'screen') continue;
    const clean = await decode(path.join(dir, truth.flat));
    rows.push(...rowsOf(++page, `photographs, ${category}`, flat.image, clean, rolls(page)));
  }
  return rows;
}

const [rounds = '24', dir] = process.argv.slice(2);
const cache = process.env.CACHE;
const rows: Row[] =
  cache && existsSync(cache) ? (JSON.parse(readFileSync(cache, 'utf8')) as Row[]) : await lookAll(Number(rounds), dir);
if (cache && !existsSync(cache)) writeFileSync(cache, JSON.stringify(rows));
const boosting = { trees: 100, depth: 5, rate: 0.2, least: 5, penalty: 10 };
const wrong = new Map<string, { paper: number; paperWrong: number; print: number; printWrong: number }>();
for (let fold = 0; fold < 3; fold++) {
  const trees = train(rows.filter((r) => r.page % 3 !== fold), boosting); // prettier-ignore
  for (const { kind, yes, numbers } of rows.filter((r) => r.page % 3 === fold)) {
    const at = wrong.get(kind) ?? { paper: 0, paperWrong: 0, print: 0, printWrong: 0 };
    wrong.set(kind, at);
    const says = probability(trees, numbers) > 0.5;
    at[yes ? 'print' : 'paper']++;
    if (says !== yes) at[yes ? 'printWrong' : 'paperWrong']++;
  }
}
console.log('kind                      paper taken for print, print for paper (%; three-fold over pages)');
const percent = (part: number, all: number) => (all ? ((100 * part) / all).toFixed(1) : '–').padEnd(8);
for (const [kind, w] of wrong)
  console.log(`${kind.padEnd(26)}${percent(w.paperWrong, w.paper)}${percent(w.printWrong, w.print)}`);
writeTrees(train(rows, boosting), 'enhance/printedWeights', 'trainPrinted', 'printedNames');
