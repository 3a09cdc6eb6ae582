import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { packBits } from './bits';
import { encodeGroup4 } from './ccitt';
import { joined } from './parts';
import { writeTiff, type Pixels } from './tiff';

const file = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-tiff-')), 'pages.tif');
const pixels = (width: number, height: number, channels: 1 | 3 | 4): Pixels => ({
  width,
  height,
  channels,
  data: Uint8Array.from({ length: width * height * channels }, (_, i) =>
    channels === 4 && i % 4 === 3 ? 255 : (i * 31 + (i >> 7) * 17) % 256,
  ),
});
const grey = pixels(331, 200, 1);
const colour = pixels(211, 150, 3);
const withAlpha = pixels(100, 60, 4);
const print = { width: 333, height: 77, data: Uint8Array.from({ length: 333 * 77 }, (_, i) => ((i % 333) % 9 < 3 ? 0 : 255)) };

beforeAll(async () => {
  const sizes = { widthMm: 210, heightMm: 297 };
  writeFileSync(
    file,
    await joined(
      await writeTiff(
        [
          { kind: 'group4', ...sizes, width: print.width, height: print.height, bytes: encodeGroup4(packBits(print)) },
          { kind: 'pixels', ...sizes, raster: grey },
          { kind: 'pixels', ...sizes, raster: colour },
          { kind: 'pixels', ...sizes, raster: withAlpha },
        ],
        4,
        'Überführung',
      ),
    ),
  );
});

// libtiff is the outside judge: its tiffinfo reads every strip, and sharp decodes through it.
test('libtiff reads every page without a warning', () => {
  const { stdout, stderr } = run('tiffinfo', '-D', file);
  expect(stderr).toBe('');
  expect(stdout.match(/TIFF Directory/g)).toHaveLength(4);
  expect(stdout).toMatch(/CCITT Group 4/);
  expect(stdout).toMatch(/AdobeDeflate/);
  expect(stdout).toMatch(/Page Number: 3-4/);
});

test.each([
  [0, print, 1],
  [1, grey, 1],
  [2, colour, 3],
  [3, withAlpha, 3],
] as const)('page %i comes back to the bit', async (page, wanted, channels) => {
  const { data, info } = await sharp(file, { page })
    .toColourspace(channels === 1 ? 'b-w' : 'srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([wanted.width, wanted.height]);
  const own = 'channels' in wanted ? wanted.channels : 1;
  let wrong = 0;
  for (let i = 0; i < wanted.width * wanted.height; i++)
    for (let k = 0; k < channels; k++) if (data[i * info.channels + k] !== wanted.data[i * own + k]) wrong++;
  expect(wrong).toBe(0);
});

test('the size on paper is told', async () => {
  const { density } = await sharp(file, { page: 1 }).metadata();
  expect(density).toBeCloseTo((331 / 210) * 25.4, 0);
});

function run(tool: string, ...args: string[]) {
  const { stdout, stderr } = spawnSync(tool, args, { encoding: 'utf8' });
  return { stdout, stderr };
}
