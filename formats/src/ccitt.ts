import type { Bits } from './bits';

/** Terminating codes for runs 0..63 and make-up codes for 64..1728, 1792..2560 (ITU-T T.4, tables 2 and 3), as bit strings. */
const whiteRuns =
  '00110101 000111 0111 1000 1011 1100 1110 1111 10011 10100 00111 01000 001000 000011 110100 110101 101010 101011 0100111 0001100 0001000 0010111 0000011 0000100 0101000 0101011 0010011 0100100 0011000 00000010 00000011 00011010 00011011 00010010 00010011 00010100 00010101 00010110 00010111 00101000 00101001 00101010 00101011 00101100 00101101 00000100 00000101 00001010 00001011 01010010 01010011 01010100 01010101 00100100 00100101 01011000 01011001 01011010 01011011 01001010 01001011 00110010 00110011 00110100 11011 10010 010111 0110111 00110110 00110111 01100100 01100101 01101000 01100111 011001100 011001101 011010010 011010011 011010100 011010101 011010110 011010111 011011000 011011001 011011010 011011011 010011000 010011001 010011010 011000 010011011'.split(
    ' ',
  );
const blackRuns =
  '0000110111 010 11 10 011 0011 0010 00011 000101 000100 0000100 0000101 0000111 00000100 00000111 000011000 0000010111 0000011000 0000001000 00001100111 00001101000 00001101100 00000110111 00000101000 00000010111 00000011000 000011001010 000011001011 000011001100 000011001101 000001101000 000001101001 000001101010 000001101011 000011010010 000011010011 000011010100 000011010101 000011010110 000011010111 000001101100 000001101101 000011011010 000011011011 000001010100 000001010101 000001010110 000001010111 000001100100 000001100101 000001010010 000001010011 000000100100 000000110111 000000111000 000000100111 000000101000 000001011000 000001011001 000000101011 000000101100 000001011010 000001100110 000001100111 0000001111 000011001000 000011001001 000001011011 000000110011 000000110100 000000110101 0000001101100 0000001101101 0000001001010 0000001001011 0000001001100 0000001001101 0000001110010 0000001110011 0000001110100 0000001110101 0000001110110 0000001110111 0000001010010 0000001010011 0000001010100 0000001010101 0000001011010 0000001011011 0000001100100 0000001100101'.split(
    ' ',
  );
const longRuns = '00000001000 00000001100 00000001101 000000010010 000000010011 000000010100 000000010101 000000010110 000000010111 000000011100 000000011101 000000011110 000000011111'.split(' '); // prettier-ignore

interface Code {
  value: number;
  length: number;
}
const code = (bits: string): Code => ({ value: parseInt(bits, 2), length: bits.length });
const runs = [whiteRuns.map(code), blackRuns.map(code)] as const;
const long = longRuns.map(code);
const pass = code('0001');
const horizontal = code('001');
/** Vertical modes for a1 − b1 = −3..3. */
const vertical = ['0000010', '000010', '010', '1', '011', '000011', '0000011'].map(code);

/** Encodes a 1-bit picture as CCITT Group 4 (ITU-T T.6), black as 1: `/CCITTFaxDecode` with K −1 and BlackIs1 false. */
export function encodeGroup4(bits: Bits): Uint8Array {
  const { width, height, data } = bits;
  const stride = (width + 7) >> 3;
  const out = new BitWriter();
  // Changing elements of a row: x where the colour changes, beginning with white, ended by the width twice.
  let reference: number[] = [width, width];
  for (let y = 0; y < height; y++) {
    const current = changes(data, y * stride, width);
    let a0 = -1;
    let colour = 0;
    let c = 0;
    let r = 0;
    while (a0 < width) {
      // b1: the first change of the reference line right of a0 to the opposite of the current colour.
      while (r > 0 && reference[r - 1]! > a0) r--;
      while (r < reference.length - 1 && (reference[r]! <= a0 || (r & 1) !== colour) && reference[r]! < width) r++;
      const b1 = reference[r]!;
      const b2 = reference[Math.min(r + 1, reference.length - 1)]!;
      while (current[c]! <= a0 && current[c]! < width) c++;
      if (a0 < 0) c = 0;
      const a1 = current[c]!;
      if (b2 < a1) {
        out.write(pass);
        a0 = b2;
      } else if (Math.abs(a1 - b1) <= 3) {
        out.write(vertical[a1 - b1 + 3]!);
        a0 = a1;
        colour ^= 1;
      } else {
        const a2 = current[Math.min(c + 1, current.length - 1)]!;
        out.write(horizontal);
        writeRun(out, a1 - Math.max(0, a0), colour as 0 | 1);
        writeRun(out, a2 - a1, (colour ^ 1) as 0 | 1);
        a0 = a2;
      }
    }
    reference = current;
  }
  // End of facsimile block: two end-of-line codes.
  out.write({ value: 1, length: 12 });
  out.write({ value: 1, length: 12 });
  return out.finish();
}

function changes(data: Uint8Array, row: number, width: number): number[] {
  const list: number[] = [];
  let colour = 0;
  let x = 0;
  while (x < width) {
    const byte = data[row + (x >> 3)]!;
    if ((x & 7) === 0 && x + 8 <= width && byte === (colour ? 0xff : 0)) {
      x += 8;
      continue;
    }
    if (((byte >> (7 - (x & 7))) & 1) !== colour) {
      list.push(x);
      colour ^= 1;
    }
    x++;
  }
  list.push(width, width);
  return list;
}

function writeRun(out: BitWriter, length: number, colour: 0 | 1): void {
  while (length >= 2560) {
    out.write(long[12]!);
    length -= 2560;
  }
  if (length >= 1792) {
    out.write(long[(length - 1792) >> 6]!);
    length %= 64;
  } else if (length >= 64) {
    out.write(runs[colour][63 + (length >> 6)]!);
    length %= 64;
  }
  out.write(runs[colour][length]!);
}

class BitWriter {
  private bytes = new Uint8Array(4096);
  private size = 0;
  private pending = 0;
  private count = 0;

  write({ value, length }: Code): void {
    for (let i = length - 1; i >= 0; i--) {
      this.pending = (this.pending << 1) | ((value >> i) & 1);
      if (++this.count === 8) this.flush();
    }
  }

  finish(): Uint8Array {
    if (this.count) {
      this.pending <<= 8 - this.count;
      this.flush();
    }
    return this.bytes.slice(0, this.size);
  }

  private flush(): void {
    if (this.size === this.bytes.length) {
      const grown = new Uint8Array(this.bytes.length * 2);
      grown.set(this.bytes);
      this.bytes = grown;
    }
    this.bytes[this.size++] = this.pending;
    this.pending = 0;
    this.count = 0;
  }
}
