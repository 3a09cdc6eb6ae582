// Part of the service worker: what another app shares is put aside, and the capture screen takes it from there (src/work/shared.ts).
self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'POST' || url.pathname !== '/share-target') return;
  event.respondWith(
    (async () => {
      const files = (await event.request.formData()).getAll('files').filter((file) => file instanceof File);
      const cache = await caches.open('libretto-shared');
      await Promise.all(
        files.map((file, i) =>
          cache.put(
            `/shared/${Date.now()}-${String(i).padStart(4, '0')}`,
            new Response(file, { headers: { 'content-type': file.type, 'x-name': encodeURIComponent(file.name) } }),
          ),
        ),
      );
      return Response.redirect('/capture?from=files', 303);
    })(),
  );
});
