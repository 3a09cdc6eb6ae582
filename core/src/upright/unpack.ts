const digits = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Signed bytes in base64 (RFC 4648), each times `step`. The core knows neither atob nor Buffer. */
export function unpack(base64: string, step: number): Float32Array {
  const text = base64.replace(/=+$/, '');
  const out = new Float32Array(Math.floor((text.length * 6) / 8));
  let bits = 0;
  let held = 0;
  let n = 0;
  for (const character of text) {
    held = (held << 6) | digits.indexOf(character);
    bits += 6;
    if (bits < 8) continue;
    bits -= 8;
    out[n++] = (((held >> bits) << 24) >> 24) * step;
    held &= (1 << bits) - 1;
  }
  return out;
}
