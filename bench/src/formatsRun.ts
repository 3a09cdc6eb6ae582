// One PDF of N photographs, by our writer or by pdf-lib's usual way, in a process of its own so that its memory can be told. Started by formats.ts.
import { openAsBlob } from 'node:fs';
import { open, readFile, writeFile } from 'node:fs/promises';
import { Worker } from 'node:worker_threads';
import { PDFDocument } from '@cantoo/pdf-lib';
import { writePdf, type PageImage } from '@libretto/formats';

const [how, out, ...files] = process.argv.slice(2) as [string, string, ...string[]];
const points = 72 / 25.4;
const size = { width: 2480, height: 3508, widthMm: 210, heightMm: 297 };

async function ours(): Promise<void> {
  const pages: PageImage[] = [];
  for (const file of files) pages.push({ ...size, kind: 'jpeg', components: 3, bytes: await openAsBlob(file) });
  const parts = await writePdf(pages, { title: 'Bench', created: new Date(0), changed: new Date(0) });
  const to = await open(out, 'w');
  for (const part of parts)
    if (part instanceof Blob) for await (const piece of part.stream()) await to.write(piece as Uint8Array);
    else await to.write(part);
  await to.close();
}

async function pdfLib(): Promise<void> {
  const pdf = await PDFDocument.create();
  for (const file of files) {
    const image = await pdf.embedJpg(await readFile(file));
    const page = pdf.addPage([size.widthMm * points, size.heightMm * points]);
    page.drawImage(image, { x: 0, y: 0, width: page.getWidth(), height: page.getHeight() });
  }
  await writeFile(out, await pdf.save({ useObjectStreams: false }));
}

// The highest memory of all that came before is higher than what is measured: another thread looks while it runs.
const most = new Float64Array(new SharedArrayBuffer(8));
const watch = new Worker(
  `const { workerData } = require('node:worker_threads'); setInterval(() => { workerData[0] = Math.max(workerData[0], process.memoryUsage.rss()); }, 2);`,
  { eval: true, workerData: most },
);
await new Promise((resolve) => watch.once('online', resolve));
while (!most[0]) await new Promise((resolve) => setTimeout(resolve, 5));
const before = (most[0] = process.memoryUsage.rss());
const from = performance.now();
await (how === 'ours' ? ours() : pdfLib());
const ms = performance.now() - from;
console.log(JSON.stringify({ ms, mb: (most[0] - before) / 1e6 }));
await watch.terminate();
