/**
 * Writes photographs of printed pages whose thin strokes a phone's noise reduction has smeared (a median of 3 px, sharpening, JPEG of 60 to 80), with the words that stand on them: plain, far away, folded
 * in four, in a clear sleeve, a magazine's columns, on a lap. Read by `npm run bench -- text --photos DIR`.
 *
 *     tsx bench/src/scenes/makeSoft.ts DIR COUNT [SEED]
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import sharp from 'sharp';
import { below, inventedDesk, noPage } from './desks';
import { anyLight } from './light';
import { rolls, type Roll } from './roll';

const [dir, count, seed = '1'] = process.argv.slice(2);
if (!dir || !(Number(count) > 0)) throw new Error('Say where to and how many: tsx bench/src/scenes/makeSoft.ts DIR COUNT [SEED]');
mkdirSync(dir, { recursive: true });

const kinds = ['plain', 'far', 'folded', 'sleeve', 'magazine', 'lap'] as const;
type Kind = (typeof kinds)[number];
const common =
  'the of and to in is that for it was on are as with his they at be this from have or by one had not but what all were when we there can an your which their said if do will each about how up out them then she many some so these would other into has more her two like him see time could no make than first been its who now people my made over did down only way find use may water long little very after words called just where most know get through back much before go good new write our used me man too any day same right look think also around another came come work three word must because does part even place well such here take why things help put years different away again off went old number'.split(
    ' ',
  );
const [widthMm, heightMm, perMm] = [210, 297, 8];
const [width, height] = [widthMm * perMm, heightMm * perMm];
const one = <T>(roll: Roll, list: readonly T[]) => list[Math.floor(roll(0, list.length - 1e-6))]!;

/** Lines of common words in a box, px, and the drawing of them. */
function paragraph(roll: Roll, [left, top, across, down]: [number, number, number, number], size: number, ink: string) {
  const lines: string[] = [];
  let drawn = '';
  for (let y = top + size; y < top + down; y += size * 1.4) {
    let line = one(roll, common);
    for (let next = one(roll, common); (line.length + next.length + 1) * size * 0.5 <= across; next = one(roll, common))
      line += ` ${next}`;
    lines.push(line);
    drawn += `<text x="${left}" y="${y}" font-family="DejaVu Serif" font-size="${size * 0.9}" fill="${ink}">${line}</text>`;
  }
  return { lines, drawn };
}

/** Four panels, each in a light of its own, and the creases between them. */
function folds(roll: Roll): string {
  const panels = [0, 1, 2, 3].map((i) => {
    const stop = (at: number, share: number) => `<stop offset="${at}" stop-color="#000" stop-opacity="${share}"/>`;
    const [x, y] = [((i & 1) * width) / 2, ((i >> 1) * height) / 2];
    return `<linearGradient id="g${i}" x1="${roll(0, 1)}" y1="${roll(0, 1)}" x2="${roll(0, 1)}" y2="${roll(0, 1)}">${stop(0, roll(0, 0.28))}${stop(1, roll(0, 0.08))}</linearGradient><rect x="${x}" y="${y}" width="${width / 2}" height="${height / 2}" fill="url(#g${i})"/>`;
  });
  const [x, y] = [width / 2, height / 2];
  return `${panels.join('')}<g fill-opacity="0.33"><rect y="${y - 4}" width="${width}" height="8"/><rect x="${x - 4}" width="8" height="${height}"/><rect y="${y + 4}" width="${width}" height="10" fill="#fff"/></g>`;
}

function page(kind: Kind, roll: Roll): { svg: string; text: string } {
  const points = kind === 'magazine' ? roll(8, 9.5) : kind === 'far' ? roll(10, 12) : roll(9, 11);
  const size = points * 0.3528 * perMm;
  const sheet = (ground: string, parts: { lines: string[]; drawn: string }[], under = '', over = '') => ({
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="${ground}"/>${under}${parts.map((p) => p.drawn).join('')}${over}</svg>`,
    text: parts.flatMap((p) => p.lines).join('\n'),
  });
  const mm = (...box: [number, number, number, number]) => box.map((v) => v * perMm) as typeof box;
  if (kind !== 'magazine') {
    const text = paragraph(roll, mm(22, 24, 166, heightMm - 50), size, one(roll, ['#1a1a1c', '#26262a', '#3a3a40']));
    return sheet('#fdfcf9', [text], '', kind === 'folded' ? folds(roll) : '');
  }
  const head = height * 0.3;
  const byte = () => Math.floor(roll(0, 255));
  const spots = Array.from({ length: 40 }, () => `<circle cx="${roll(0, width)}" cy="${roll(0, head)}" r="${roll(10, 200)}" fill="rgb(${byte()},${byte()},${byte()})" fill-opacity="0.25"/>`); // prettier-ignore
  const picture = `<clipPath id="head"><rect width="${width}" height="${head}"/></clipPath><g clip-path="url(#head)"><rect width="${width}" height="${head}" fill="${one(roll, ['#22557a', '#7a2f22', '#2f6b45'])}"/>${spots.join('')}</g>`; // prettier-ignore
  const columns = [15, 110].map((x) => paragraph(roll, mm(x, heightMm * 0.34, 85, heightMm * 0.58), size, '#222'));
  return sheet(one(roll, ['#f4ead8', '#e8f0f4', '#fbfaf6', '#f6e3e0']), columns, picture);
}

const photos: unknown[] = [];
for (let i = 0; i < Number(count); i++) {
  const roll = rolls(Number(seed) * 7919 + i * 104729 + 7);
  roll(0, 1);
  const kind = kinds[i % kinds.length]!;
  const { svg, text } = page(kind, roll);
  const clean = await sharp(Buffer.from(svg)).removeAlpha().png().toBuffer();
  const { data } = await sharp(clean).raw().toBuffer({ resolveWithObject: true });
  const picture = { width, height, channels: 3 as const, data: new Uint8ClampedArray(data) };
  const flat = { kind: 'flat' as const };
  const bend = kind === 'lap' ? { kind: 'curl' as const, heightMm: roll(8, 22) } : flat;
  const dim = roll(0, 1) < 0.25 ? 0.5 : 1;
  const { photo, pages } = photograph(
    {
      desk: 'oak',
      sheets: [
        below(inventedDesk(roll), roll(-180, 180)),
        { id: kind, picture, widthMm, heightMm, xMm: roll(-10, 10), yMm: roll(-10, 10), angle: roll(-20, 20), bend, shadow: 0.3 },
      ],
      camera: { ...usualCamera, at: [roll(-10, 10), roll(-10, 10)], distance: heightMm * (kind === 'far' ? roll(1.9, 2.4) : roll(1.15, 1.4)), tilt: roll(0, 24), azimuth: roll(0, 360), roll: roll(-8, 8) }, // prettier-ignore
      light: anyLight(roll, dim),
      noise: dim < 1 ? roll(4, 7) : roll(1.5, 4),
      seed: i + 1,
    },
    1800,
    2400,
  );
  if (kind === 'sleeve') {
    const glare = roll(0.06, 0.16);
    photo.data.forEach((v, p) => (photo.data[p] = v + (255 - v) * glare));
  }
  const file = `soft-${kind}-${i}.jpg`;
  await sharp(photo.data, { raw: { width: photo.width, height: photo.height, channels: 3 } })
    .median(3)
    .sharpen({ sigma: roll(0.8, 1.6), m1: 1, m2: roll(1, 3) })
    .jpeg({ quality: Math.round(roll(60, 80)) })
    .toFile(path.join(dir, file));
  await sharp(clean).toFile(path.join(dir, `flat-${i}.png`));
  const own = pages.filter((p) => p.id !== noPage).map((p) => ({ ...p, text, flat: `flat-${i}.png` }));
  photos.push({ file, category: `soft-${kind}`, size: [photo.width, photo.height], pages: own });
}
writeFileSync(path.join(dir, 'truth.json'), JSON.stringify({ photos }));
