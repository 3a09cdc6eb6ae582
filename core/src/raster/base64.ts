const digits = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes from base64 (RFC 4648). The core knows neither atob nor Buffer. */
export function fromBase64(base64: string): Uint8Array {
  const text = base64.replace(/=+$/, '');
  const out = new Uint8Array(Math.floor((text.length * 6) / 8));
  let bits = 0;
  let held = 0;
  let n = 0;
  for (const character of text) {
    held = (held << 6) | digits.indexOf(character);
    bits += 6;
    if (bits < 8) continue;
    bits -= 8;
    out[n++] = held >> bits;
    held &= (1 << bits) - 1;
  }
  return out;
}
