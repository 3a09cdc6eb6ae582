// Draws the app's icon in its sizes into public/icons. Run by hand when the drawing changes.
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

const out = fileURLToPath(new URL('../public/icons/', import.meta.url));
/** A leaf with a turned corner, its fold stitched, on wine-dark cloth; all within the safe zone of a maskable icon (the middle 80 %). */
const drawing = (inset) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512">
<rect x="${inset}" y="${inset}" width="${512 - 2 * inset}" height="${512 - 2 * inset}" rx="${inset ? 72 : 0}" fill="#6e1f3a"/>
<path d="M150 118h150l62 62v214H150z" fill="#fffdf8"/>
<path d="M300 118l62 62h-62z" fill="#d9c9b0"/>
<path d="M178 138v236" stroke="#6e1f3a" stroke-width="9" stroke-dasharray="26 17" stroke-linecap="round"/>
<path d="M214 226h112M214 268h112M214 310h72" stroke="#26211e" stroke-width="14" stroke-linecap="round"/>
</svg>`;
for (const [name, size, inset] of [
  ['icon-180', 180, 0],
  ['icon-192', 192, 24],
  ['icon-512', 512, 24],
  ['maskable-192', 192, 0],
  ['maskable-512', 512, 0],
])
  // prettier-ignore
  await sharp(Buffer.from(drawing(inset))).resize(size, size).png({ palette: true }).toFile(`${out}${name}.png`);
await sharp(Buffer.from(drawing(24)))
  .resize(64, 64)
  .png({ palette: true })
  .toFile(fileURLToPath(new URL('../assets/favicon.png', import.meta.url)));
