import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { prepareZXingModule, writeBarcode } from 'zxing-wasm/writer';
import { codesIn, prepareCodes } from '@libretto/text';
import { readSheets, type Sheet } from './printed';

const require = createRequire(import.meta.url);
const wasm = (part: 'reader' | 'writer') => {
  const bytes = readFileSync(require.resolve(`zxing-wasm/${part}/zxing_${part}.wasm`));
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};

/** Kinds, what each says and how wide it is printed for its longer side of one, mm. */
const kinds = [
  ['QRCode', 'https://saltmarsh.example.org/berth/27?tide=low', [14, 22, 38]],
  ['DataMatrix', 'SM-26-114/9P', [10, 16, 28]],
  ['Aztec', 'Wren 26-114 frame 9', [12, 18, 30]],
  ['PDF417', 'Timber docket 4471, larch, planed', [40, 60, 90]],
  ['EAN13', '4006381333931', [28, 37, 56]],
  ['Code128', 'SM-0047-2026', [34, 50, 75]],
  ['Code39', 'SM0047', [45, 60, 85]],
] as const;
const angles = [0, 14, 90];

interface CodeSheet extends Sheet {
  kind: string;
  text: string;
}

/** Each kind at three sizes and three angles on an A5 sheet, photographed by our renderer: how many our reader reads on the finished page, and how many Debian's zbarimg does on the same picture (it knows no Data Matrix and no Aztec). */
export async function benchCodes(keep?: string): Promise<void> {
  prepareZXingModule({ overrides: { wasmBinary: wasm('writer') } });
  prepareCodes({ binary: wasm('reader') });
  const sheets: CodeSheet[] = [];
  for (const [kind, text, sizes] of kinds) {
    const { svg } = await writeBarcode(text, { format: kind, addQuietZones: true } as never);
    for (const [s, widthMm] of sizes.entries())
      for (const angle of angles)
        sheets.push({
          id: `code-${kind}-${s}-${angle}`,
          kind,
          text,
          widthMm: 148,
          heightMm: 210,
          html: `<style>body{margin:0;padding:0!important}svg{width:${widthMm}mm;height:auto}</style><div style="padding:14mm"><h2>Berth notes</h2><p>What belongs to this berth is told by its code.</p></div><div style="position:absolute;left:74mm;top:110mm;transform:translate(-50%,-50%) rotate(${angle}deg)">${svg.replace(/<\?xml.*?\?>/, '')}</div>`,
        });
  }
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-codes-'));
  const sums = new Map<string, { ours: number; zbar: number; all: number; wrong: number }>();
  await readSheets(
    sheets,
    'codes',
    keep,
    async (sheet, _read, image) => {
      const found = image ? await codesIn(image) : [];
      let zbar = '';
      if (image) {
        const file = path.join(dir, 'page.png');
        await sharp(image.data, { raw: { width: image.width, height: image.height, channels: image.channels } }).png().toFile(file); // prettier-ignore
        try {
          zbar = execFileSync('zbarimg', ['-q', '--raw', file], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
        } catch {
          // It found none.
        }
      }
      for (const row of [sheet.kind, 'all']) {
        const sum = sums.get(row) ?? { ours: 0, zbar: 0, all: 0, wrong: 0 };
        sum.all++;
        if (found.some((c) => c.text === sheet.text)) sum.ours++;
        if (found.some((c) => c.text !== sheet.text)) sum.wrong++;
        if (zbar.split('\n').includes(sheet.text)) sum.zbar++;
        sums.set(row, sum);
      }
    },
    true,
  );
  console.log('codes                 ours      zbarimg   read wrongly by us');
  for (const [row, s] of sums) console.log(`${row.padEnd(22)}${`${s.ours} of ${s.all}`.padEnd(10)}${`${s.zbar} of ${s.all}`.padEnd(10)}${s.wrong}`); // prettier-ignore
  console.log(JSON.stringify(Object.fromEntries([...sums].map(([row, s]) => [row, [s.ours, s.zbar, s.all]]))));
}
