import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { slipSheet, type Slip } from '@libretto/model/slip';
import { ticksOn } from './slip';

const slip: Slip = {
  libretto: 'slip',
  v: 1,
  id: 'slip-0001',
  name: '',
  places: ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => ({ id, name: id })),
  pen: true,
};
/** Pen strokes from the corner of a box, mm. */
const pens = {
  empty: '',
  tick: '<path d="M1.5 5 L4 7.5 L10 -1"/>',
  cross: '<path d="M1 1 L8 8 M8 1 L1 8"/>',
  small: '<path d="M3 4.5 L4.2 6 L6.5 2.5"/>',
  dot: '<circle cx="4.5" cy="4.5" r="0.28" fill="#20367c" stroke="none"/>',
  blacked: '<rect x="0.3" y="0.3" width="8.4" height="8.4" fill="#20367c"/>',
  beside: '<path d="M-4 2 L-1.2 8"/>',
};
type Pen = keyof typeof pens;

/** The finished page of a slip: printed, ticked, laid a little off, then blurred as by a lens. */
async function page(ticks: readonly Pen[], { turn = 0, dx = 0, dy = 0, angle = 0, dpi = 130 } = {}): Promise<Raster> {
  const { widthMm, heightMm, box, boxY, code } = slipSheet;
  const boxes = ticks.map((pen, i) => `<g transform="translate(${box.x} ${boxY(i)})"><rect width="${box.side}" height="${box.side}" fill="none" stroke="#1f1a17" stroke-width="0.6"/><g stroke="#20367c" stroke-width="0.5" fill="none">${pens[pen]}</g><text x="15" y="6" font-size="5">Place ${i}</text></g>`); // prettier-ignore
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${widthMm} ${heightMm}"><rect width="100%" height="100%" fill="#f0eee8"/><g transform="rotate(${angle} 74 105) translate(${dx} ${dy})">${boxes.join('')}<rect x="${code.x + 4}" y="${code.y + 4}" width="${code.side - 8}" height="${code.side - 8}"/></g></svg>`;
  const { data, info } = await sharp(Buffer.from(svg), { density: dpi })
    .rotate(turn)
    .blur(1.2)
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: 1, data };
}

/** Where the code lies on it. */
function codeOn({ width, height }: Raster, { turn = 0, dx = 0, dy = 0 } = {}) {
  const { widthMm, heightMm, code } = slipSheet;
  const x = (code.x + code.side / 2 + dx) / widthMm;
  const y = (code.y + code.side / 2 + dy) / heightMm;
  const [cx, cy] = turn ? [1 - x, 1 - y] : [x, y];
  return { kind: 'QR Code', text: '', box: { x: cx * width - 20, y: cy * height - 20, width: 40, height: 40 } };
}

const ticks: Pen[] = ['tick', 'empty', 'cross', 'small', 'dot', 'blacked'];
const said = ['ticked', 'empty', 'ticked', 'ticked', 'empty', 'unclear'];

test.each([{}, { turn: 180 }, { dx: 2.5, dy: -3 }, { angle: 1 }, { dpi: 200, turn: 180, dx: -2 }])(
  'ticks, crosses and small ones are told from dust and from what is blacked out: %j',
  async (how) => {
    const made = await page(ticks, how);
    expect(ticksOn(made, codeOn(made, how), slip)).toEqual(said);
  },
);

test('a stroke beside a box is none in it', async () => {
  const made = await page(['beside', 'empty', 'tick', 'beside', 'empty', 'empty']);
  expect(ticksOn(made, codeOn(made), slip)).toEqual(['empty', 'empty', 'ticked', 'empty', 'empty', 'empty']);
});

test('where the sheet does not lie as it was printed, or has no boxes, all is unclear', async () => {
  const made = await page(ticks);
  const elsewhere = { ...codeOn(made), box: { x: made.width / 2, y: made.height / 2, width: 40, height: 40 } };
  expect(ticksOn(made, elsewhere, slip)).toEqual(said.map(() => 'unclear'));
  const bare: Raster = { ...made, data: new Uint8Array(made.data.length).fill(235) };
  expect(ticksOn(bare, codeOn(bare), slip)).toEqual(said.map(() => 'unclear'));
});
