import QRCode from 'qrcode';
import { slipSheet, writeSlip, type Slip } from '@libretto/model/slip';
import { fonts } from '../ui/tokens';
import type { Say } from '../ui/words/words';

const [ink, pale, rule] = ['#1f1a17', '#6b625a', '#b9b0a4'];
/** Where the name's lines lie, mm. */
const nameY = [64, 76, 88];
const left = slipSheet.box.x;
const right = slipSheet.widthMm - left;
/** Modules of quiet zone round the code (ISO/IEC 18004). */
const quiet = 4;

/** Draws a cover slip as it is printed. */
export async function drawSlip(slip: Slip, say: Say, dpi = 300): Promise<HTMLCanvasElement> {
  const { widthMm, heightMm, code, box, boxY } = slipSheet;
  const perMm = dpi / 25.4;
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(widthMm * perMm);
  canvas.height = Math.round(heightMm * perMm);
  const pen = canvas.getContext('2d', { alpha: false })!;
  pen.fillStyle = '#fff';
  pen.fillRect(0, 0, canvas.width, canvas.height);
  pen.scale(perMm, perMm);
  await Promise.all([fonts.heading, fonts.text, fonts.bold].map((family) => document.fonts?.load(`16px ${family}`).catch(() => []))); // prettier-ignore
  const write = (text: string, x: number, y: number, mm: number, family: string, colour = ink, most = Infinity) => {
    pen.fillStyle = colour;
    pen.font = `${mm}px ${family}, sans-serif`;
    pen.fillText(text, x, y, Number.isFinite(most) ? most : undefined);
  };
  write(say('slip.title'), left, 27, 10, fonts.heading);
  write(say('slip.lay'), left, 36, 3.8, fonts.text, pale, code.x - left - 4);
  write(say('slip.name'), left, 54, 3.8, fonts.text, pale);
  const lines = linesOf(pen, slip.name, right - left);
  nameY.forEach((y, i) => {
    if (lines[i]) write(lines[i], left, y - 2, 6.2, fonts.bold, ink, right - left);
    line(pen, left, y, right, y, rule, 0.2);
  });
  if (slip.places.length) write(say(slip.pen ? 'slip.tick' : 'slip.goes'), left, boxY(0) - 6, 3.8, fonts.text, pale);
  slip.places.forEach(({ name, details }, i) => {
    const y = boxY(i);
    if (slip.pen) {
      pen.strokeStyle = ink;
      pen.lineWidth = 0.6;
      pen.strokeRect(box.x, y, box.side, box.side);
    } else write('→', box.x + 1, y + 6.4, 6, fonts.text);
    const x = box.x + box.side + 6;
    const about = details?.to?.join(', ') ?? details?.folder ?? '';
    write(name, x, y + (about ? 4.4 : 6.4), 5.2, fonts.bold, ink, right - x);
    if (about) write(about, x, y + 8.8, 3.4, fonts.text, pale, right - x);
  });
  // Stitches along the lower edge, where an A4 sheet with two of them is cut.
  pen.setLineDash([2.2, 1.8]);
  line(pen, 6, heightMm - 6, widthMm - 6, heightMm - 6, rule, 0.4);
  pen.setLineDash([]);
  drawCode(pen, writeSlip(slip), code);
  return canvas;
}

function line(pen: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number, colour: string, width: number) {
  pen.strokeStyle = colour;
  pen.lineWidth = width;
  pen.beginPath();
  pen.moveTo(x0, y0);
  pen.lineTo(x1, y1);
  pen.stroke();
}

function drawCode(pen: CanvasRenderingContext2D, text: string, { x, y, side }: typeof slipSheet.code): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const module = side / (modules.size + 2 * quiet);
  pen.fillStyle = '#000';
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      // A hair wider, so that no seams show between them.
      if (modules.get(row, column)) pen.fillRect(x + (column + quiet) * module, y + (row + quiet) * module, module + 0.01, module + 0.01); // prettier-ignore
}

/** A name in as many lines as there are; what is longer is pressed into the last one. */
function linesOf(pen: CanvasRenderingContext2D, name: string, width: number): string[] {
  pen.font = `6.2px ${fonts.bold}, sans-serif`;
  const lines: string[] = [];
  for (const word of name.split(/\s+/).filter(Boolean)) {
    const longer = lines.length ? `${lines.at(-1)} ${word}` : word;
    if (lines.length && (lines.length === nameY.length || pen.measureText(longer).width <= width))
      lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  return lines;
}
