import { sharedFiles } from './shared';

/** As much of the Cache interface as is used. */
function aCache(entries: [string, Response][]) {
  const kept = new Map(entries);
  return {
    kept,
    keys: async () => [...kept.keys()].map((url) => ({ url })),
    match: async ({ url }: { url: string }) => kept.get(url),
    delete: async ({ url }: { url: string }) => kept.delete(url),
  };
}
const answer = (name: string) =>
  ({ headers: new Map([['content-type', 'image/jpeg'], ['x-name', encodeURIComponent(name)]]), blob: async () => new Blob([name]) }) as unknown as Response; // prettier-ignore

test('what another app has shared comes in its order, and stays until it is in', async () => {
  const cache = aCache([['/shared/20-0001', answer('Überführung.jpg')], ['/shared/20-0000', answer('first.jpg')]]); // prettier-ignore
  Object.assign(globalThis, { caches: { has: async () => true, open: async () => cache } });
  const { files, forget } = await sharedFiles();
  expect(files.map((f) => [f.name, f.type])).toEqual([['first.jpg', 'image/jpeg'], ['Überführung.jpg', 'image/jpeg']]); // prettier-ignore
  expect(cache.kept.size).toBe(2);
  await forget();
  expect(cache.kept.size).toBe(0);
});

test('without a shared file, or without such a store, there is none', async () => {
  Object.assign(globalThis, { caches: { has: async () => false } });
  expect((await sharedFiles()).files).toEqual([]);
  Object.assign(globalThis, { caches: undefined });
  expect((await sharedFiles()).files).toEqual([]);
});
