/**
 * Writes photographs in which a page's outline is hard to tell (on a pile of its like, white on white, in a clear sleeve, far away, on patterned grounds, from a low angle, coloured), as a phone's own
 * processing leaves them.
 *
 *     tsx bench/src/scenes/makeHard.ts DIR COUNT [SEED] [KIND,KIND…]
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import { noPage } from './desks';
import { hardKinds, hardScene } from './hard';
import { anyLight } from './light';
import { asPhonesDo } from './phone';
import { rolls } from './roll';

const [dir, count, seed = '1', which] = process.argv.slice(2);
if (!dir || !(Number(count) > 0)) throw new Error('Say where to and how many: tsx bench/src/scenes/makeHard.ts DIR COUNT [SEED] [KIND,KIND…]'); // prettier-ignore
mkdirSync(dir, { recursive: true });
const kinds = which ? hardKinds.filter((k) => which.split(',').includes(k)) : hardKinds;
const photos: unknown[] = [];
for (let i = 0; i < Number(count); i++) {
  const roll = rolls(Number(seed) * 9973 + i * 32452843 + 41);
  roll(0, 1);
  const kind = kinds[i % kinds.length]!;
  const { sheets, distance, tilt, over } = await hardScene(kind, roll);
  const page = sheets.at(-1)!;
  const dim = roll(0, 1) < 0.2 ? 0.35 : 1;
  const size: [number, number] = roll(0, 1) < 0.4 ? [1200, 900] : [900, 1200];
  const { photo, pages } = photograph(
    {
      desk: 'oak',
      sheets,
      camera: { ...usualCamera, at: [roll(-10, 10), roll(-10, 10)], distance: Math.max(page.widthMm, page.heightMm) * roll(...distance), tilt: roll(...tilt), azimuth: roll(0, 360), roll: roll(-12, 12) }, // prettier-ignore
      light: anyLight(roll, dim),
      noise: dim < 1 ? roll(5, 10) : roll(1.5, 5),
      seed: i + 1,
    },
    ...size,
  );
  const own = pages.filter((p) => p.id !== noPage);
  over?.(photo, own[0]!);
  const file = `hard-${kind}-${String(i).padStart(4, '0')}.jpg`;
  await asPhonesDo(photo, roll).toFile(path.join(dir, file));
  photos.push({ file, category: `hard-${kind}`, size: [photo.width, photo.height], pages: own });
}
writeFileSync(path.join(dir, 'truth.json'), JSON.stringify({ photos }));
