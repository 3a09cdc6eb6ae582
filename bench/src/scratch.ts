import sharp from 'sharp';
import { readSheets } from './printed';
import { cardSheet } from './fieldSheets';
await readSheets([cardSheet('plain', 3), cardSheet('centred', 2)], 'x', '/tmp/keep-x', async (s, read, image) => {
  console.log(s.id, read?.width, read?.height, read?.widthMm, read?.heightMm, read?.lines.map((l) => l.words.map((w) => w.text).join(' ')));
  if (image) await sharp(image.data, { raw: { width: image.width, height: image.height, channels: image.channels as 1 } }).png().toFile(`/tmp/${s.id}.png`);
});
