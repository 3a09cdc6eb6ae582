/** Where the service worker puts what another app has shared; see public/share-target.js. */
const cacheName = 'libretto-shared';

/** Files that another app has shared, in their order. They stay until `forget` is called: what has not come in yet is not lost by a reload. */
export async function sharedFiles(): Promise<{ files: File[]; forget: () => Promise<void> }> {
  if (typeof caches === 'undefined' || !(await caches.has(cacheName))) return { files: [], forget: async () => {} };
  const cache = await caches.open(cacheName);
  const requests = [...(await cache.keys())].sort((a, b) => a.url.localeCompare(b.url));
  const files = await Promise.all(
    requests.map(async (request) => {
      const answer = (await cache.match(request))!;
      const type = answer.headers.get('content-type') ?? '';
      const name = decodeURIComponent(answer.headers.get('x-name') ?? '') || 'shared';
      return new File([await answer.blob()], name, { type });
    }),
  );
  return { files, forget: async () => void (await Promise.all(requests.map((request) => cache.delete(request)))) };
}

interface LaunchQueue {
  setConsumer(consumer: (params: { files: readonly { getFile(): Promise<File> }[] }) => void): void;
}

/** Hears of files that the system opens with the installed app. */
export function onOpenedFiles(take: (files: File[]) => void): void {
  const queue = (window as { launchQueue?: LaunchQueue }).launchQueue;
  queue?.setConsumer(({ files }) => {
    if (files.length) void Promise.all(files.map((handle) => handle.getFile())).then(take);
  });
}
