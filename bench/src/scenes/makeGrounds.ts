/**
 * Writes photographs without any page: keyboards, blinds, shelves and their like, as a phone's own processing leaves them (noise smeared, edges sharpened, JPEG of 60 to 90), for training the finder's
 * acceptance and for measuring it; the families in `unseen` are for measuring only.
 *
 *     tsx bench/src/scenes/makeGrounds.ts DIR COUNT [SEED] [unseen|FAMILY,FAMILY…]
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import { deskMm } from './desks';
import { families, groundPicture, unseen } from './grounds';
import { anyLight } from './light';
import { asPhonesDo } from './phone';
import { rolls } from './roll';

const [dir, count, seed = '1', which] = process.argv.slice(2);
if (!dir || !(Number(count) > 0)) throw new Error('Say where to and how many: tsx bench/src/scenes/makeGrounds.ts DIR COUNT [SEED] [unseen]'); // prettier-ignore
mkdirSync(dir, { recursive: true });
const kinds = which === 'unseen' ? unseen : which ? families.filter((f) => which.split(',').includes(f)) : families;
const photos: unknown[] = [];
for (let i = 0; i < Number(count); i++) {
  const roll = rolls(Number(seed) * 6151 + i * 15485863 + 29);
  roll(0, 1);
  const family = kinds[i % kinds.length]!;
  const dim = roll(0, 1) < 0.2 ? 0.35 : 1;
  const size: [number, number] = roll(0, 1) < 0.5 ? [1200, 900] : [900, 1200];
  const { photo } = photograph(
    {
      desk: 'oak',
      sheets: [{ id: family, picture: await groundPicture(family, roll), widthMm: deskMm, heightMm: deskMm, xMm: 0, yMm: 0, angle: roll(-25, 25) + (roll(0, 1) < 0.2 ? 90 : 0), bend: { kind: 'flat' } }], // prettier-ignore
      camera: { ...usualCamera, at: [roll(-60, 60), roll(-60, 60)], distance: roll(260, 760), tilt: roll(0, 38), azimuth: roll(0, 360), roll: roll(-12, 12) }, // prettier-ignore
      light: anyLight(roll, dim),
      noise: dim < 1 ? roll(5, 10) : roll(1.5, 5),
      seed: i + 1,
    },
    ...size,
  );
  const file = `none-${family}-${String(i).padStart(4, '0')}.jpg`;
  await asPhonesDo(photo, roll).toFile(path.join(dir, file));
  photos.push({ file, category: `none-${family}`, size: [photo.width, photo.height], pages: [] });
}
writeFileSync(path.join(dir, 'truth.json'), JSON.stringify({ photos }));
