/** Lets pictures be opened under Jest, which has no decoder; the mock can be told to refuse one. */
export function openPhotos(): jest.Mock {
  const decode = jest.fn(async () => ({ close: () => {} }));
  Object.assign(globalThis, { createImageBitmap: decode });
  return decode;
}
