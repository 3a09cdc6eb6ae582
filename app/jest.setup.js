require('fake-indexeddb/auto');
if (!globalThis.structuredClone)
  globalThis.structuredClone = (v) => require('node:v8').deserialize(require('node:v8').serialize(v));
const { TextDecoder, TextEncoder } = require('node:util');
if (!globalThis.TextDecoder) Object.assign(globalThis, { TextDecoder, TextEncoder });
// jsdom's blobs cannot be read at once.
Blob.prototype.arrayBuffer ??= function () {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result);
    reader.onerror = () => reject(reader.error);
    reader.readAsArrayBuffer(this);
  });
};
// Dates as the tests write them.
if (typeof navigator !== 'undefined') Object.defineProperty(navigator, 'language', { value: 'en-GB', configurable: true });
// jsdom lays nothing out: lists get a size, and their entries one each.
if (typeof HTMLElement !== 'undefined')
  for (const side of ['offsetHeight', 'offsetWidth', 'clientHeight', 'clientWidth'])
    Object.defineProperty(HTMLElement.prototype, side, {
      configurable: true,
      get() {
        return this.hasAttribute('data-index') ? 100 : 800;
      },
    });
// Streams are there in every browser, but not in jsdom.
const streams = require('node:stream/web');
for (const name of ['ReadableStream', 'WritableStream', 'TransformStream', 'CompressionStream', 'DecompressionStream'])
  globalThis[name] ??= streams[name];
if (typeof crypto !== 'undefined' && !crypto.subtle) {
  const { subtle } = require('node:crypto').webcrypto;
  // Buffers of jsdom's are not Node's.
  const digest = (name, data) => subtle.digest(name, require('node:buffer').Buffer.from(new Uint8Array(data)));
  Object.defineProperty(crypto, 'subtle', { value: { digest } });
}
