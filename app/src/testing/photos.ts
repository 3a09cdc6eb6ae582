// jsdom's blobs cannot be read at once.
Blob.prototype.arrayBuffer ??= function (this: Blob) {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as ArrayBuffer);
    reader.onerror = () => reject(reader.error);
    reader.readAsArrayBuffer(this);
  });
};

/** Lets pictures be opened under Jest, which has no decoder; the mock can be told to refuse one. */
export function openPhotos(): jest.Mock {
  const decode = jest.fn(async () => ({ close: () => {} }));
  Object.assign(globalThis, { createImageBitmap: decode });
  return decode;
}
