import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { layered, pdfPage } from '@libretto/cli/encode';
import { encodeGroup4, joined, packBits, writePdf, type PageImage } from '@libretto/formats';
import { firstPage, type FirstPage } from './fieldSheets';
import { median } from './median';
import { finishedSheet, printer } from './printed';

const rounds = 3;
const letters = 10;

/**
 * Files beside those of others: PDFs of 10, 50 and 200 photographs in time and memory (pdf-lib in its usual way); ten letters in colour, parted into layers, in size and in words that Debian's
 * Tesseract reads (plain JPEG pages); two-level pages in size and time (libtiff's Group 4).
 */
export async function benchFormats(): Promise<void> {
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-formats-'));
  const figures = { ...(await manyPages(dir)), ...(await colourLetters(dir)), ...(await group4(dir)) };
  console.log(JSON.stringify(figures));
}

async function manyPages(dir: string) {
  const demo = fileURLToPath(new URL('../../demo/flat', import.meta.url));
  const sheets = readdirSync(demo).slice(0, 10);
  const jpegs: string[] = [];
  for (let i = 0; i < 200; i++) {
    const file = path.join(dir, `page-${i}.jpg`);
    // Each a file of its own: equal ones would be embedded once.
    if (i < sheets.length)
      await sharp(path.join(demo, sheets[i]!)).resize(2480, 3508, { fit: 'fill' }).removeAlpha().jpeg({ quality: 80 }).toFile(file); // prettier-ignore
    else writeFileSync(file, Buffer.concat([await sharp(jpegs[i % sheets.length]).toBuffer(), Buffer.from([i])]));
    jpegs.push(file);
  }
  const script = fileURLToPath(new URL('formatsRun.ts', import.meta.url));
  const once = (how: string, pages: number) => {
    const out = path.join(dir, `${how}-${pages}.pdf`);
    const said = execFileSync(process.execPath, ['--import', 'tsx', script, how, out, ...jpegs.slice(0, pages)]).toString();
    return JSON.parse(said) as { ms: number; mb: number };
  };
  console.log('pages        ms a page (pdf-lib)   memory, MB (pdf-lib)');
  const figures: Record<string, number> = {};
  for (const pages of [10, 50, 200]) {
    const runs = Array.from({ length: rounds }, () => [once('ours', pages), once('pdf-lib', pages)] as const);
    for (const how of ['ours', 'pdf-lib']) execFileSync('qpdf', ['--check', path.join(dir, `${how}-${pages}.pdf`)]);
    const of = (at: 0 | 1, key: 'ms' | 'mb') => median(runs.map((run) => run[at][key]));
    console.log(`${String(pages).padEnd(12)} ${(of(0, 'ms') / pages).toFixed(2)} (${(of(1, 'ms') / pages).toFixed(2)})            ${of(0, 'mb').toFixed(0)} (${of(1, 'mb').toFixed(0)})`); // prettier-ignore
    figures[`time${pages}`] = +median(runs.map(([a, b]) => a.ms / b.ms)).toFixed(2);
    figures[`mb${pages}`] = Math.round(of(0, 'mb'));
    figures[`mbOther${pages}`] = Math.round(of(1, 'mb'));
  }
  return figures;
}

/** A letter with a coloured head, a coloured drawing and a marked line. */
function inColour(letter: FirstPage, seed: number): FirstPage {
  const hue = (seed * 47) % 360;
  const head = `<div style="display:flex;align-items:center;gap:6mm;border-bottom:1.2mm solid hsl(${hue} 60% 40%);padding-bottom:4mm;margin-bottom:6mm"><svg width="26mm" height="18mm" viewBox="0 0 26 18"><rect width="26" height="18" rx="3" fill="hsl(${hue} 55% 88%)"/><path d="M3 12h20l-4 4H7zM12 2v9H5z" fill="hsl(${hue} 65% 38%)"/><path d="M13 4v7h6z" fill="hsl(${(hue + 150) % 360} 70% 45%)"/></svg><b style="font-size:15pt;color:hsl(${hue} 60% 35%)">Saltmarsh Yard</b></div>`; // prettier-ignore
  const marked = letter.html.replace('<p>Dear owner,</p>', `<p style="color:hsl(${(hue + 200) % 360} 75% 38%)"><b>Dear owner,</b></p>`); // prettier-ignore
  return { ...letter, id: `letter-${seed}`, html: marked.replace('<div style="padding:16mm 18mm">', `<div style="padding:14mm 18mm">${head}`) }; // prettier-ignore
}

async function colourLetters(dir: string) {
  const sheets = Array.from({ length: letters }, (_, i) => inColour(firstPage('letter', i + 1), i + 1));
  const { paper, close } = await printer();
  const pages: Record<'plain' | 'layered', PageImage[]> = { plain: [], layered: [] };
  const wanted: string[] = [];
  for (const [at, sheet] of sheets.entries()) {
    const page = await finishedSheet(paper, sheet, at, 'even-light');
    if (!page) continue;
    pages.plain.push(await pdfPage(page));
    pages.layered.push(await pdfPage(page, layered));
    wanted.push(sheet.html.replace(/<style>.*?<\/style>/gs, ' ').replace(/<[^>]+>/g, ' '));
  }
  await close();
  const sizes: Record<string, number> = {};
  const recall: Record<string, number> = {};
  for (const how of ['plain', 'layered'] as const) {
    const file = path.join(dir, `letters-${how}.pdf`);
    writeFileSync(
      file,
      await joined(await writePdf(pages[how], { title: 'Letters', created: new Date(0), changed: new Date(0) })),
    );
    execFileSync('qpdf', ['--check', file]);
    sizes[how] = statSync(file).size;
    execFileSync('pdftoppm', ['-r', '300', '-png', file, path.join(dir, how)]);
    const pictures = readdirSync(dir).filter((name) => name.startsWith(`${how}-`) && name.endsWith('.png')).sort(); // prettier-ignore
    let [hit, all] = [0, 0];
    for (const [i, name] of pictures.entries()) {
      const read = execFileSync('tesseract', [path.join(dir, name), '-', '-l', 'eng'], { stdio: ['ignore', 'pipe', 'ignore'] });
      const said = new Map<string, number>();
      for (const word of wordsIn(read.toString())) said.set(word, (said.get(word) ?? 0) + 1);
      for (const word of wordsIn(wanted[i]!)) {
        all++;
        const left = said.get(word) ?? 0;
        if (!left) continue;
        hit++;
        said.set(word, left - 1);
      }
    }
    recall[how] = hit / all;
  }
  const layers = pages.layered.filter((p) => p.kind === 'layered').length;
  console.log(`${wanted.length} letters in colour: ${(sizes.plain! / 1e6).toFixed(2)} MB plain, ${(sizes.layered! / 1e6).toFixed(2)} MB layered (${layers} of them); words read ${recall.plain!.toFixed(4)} and ${recall.layered!.toFixed(4)}`); // prettier-ignore
  return {
    layeredSize: +(sizes.layered! / sizes.plain!).toFixed(3),
    recallPlain: +recall.plain!.toFixed(4),
    recallLayered: +recall.layered!.toFixed(4),
  };
}

const wordsIn = (text: string) => text.toLowerCase().match(/[\p{L}\p{N}]{2,}/gu) ?? [];

/** The demo's sheets at 300 dpi in two levels, beside what libtiff's own tool makes of them. */
async function group4(dir: string) {
  const demo = fileURLToPath(new URL('../../demo/flat', import.meta.url));
  const [sizes, times]: number[][] = [[], []];
  for (const name of readdirSync(demo)) {
    const bare = path.join(dir, 'bare.tif');
    const packed = path.join(dir, 'packed.tif');
    const { data, info } = await sharp(path.join(demo, name)).resize(2480).removeAlpha().greyscale().threshold(150).raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
    const bits = packBits({ width: info.width, height: info.height, data });
    await sharp(data, { raw: { width: info.width, height: info.height, channels: 1 } }).toColourspace('b-w').tiff({ bitdepth: 1, compression: 'none' }).toFile(bare); // prettier-ignore
    let from = performance.now();
    execFileSync('tiffcp', ['-c', 'g4', '-r', String(info.height), bare, packed]);
    const other = performance.now() - from;
    from = performance.now();
    const bytes = encodeGroup4(bits);
    times!.push((performance.now() - from) / other);
    const theirs = Number(/StripByteCounts \(279\)[^<]*<(\d+)/.exec(execFileSync('tiffdump', [packed]).toString())?.[1]);
    sizes!.push(bytes.length / theirs);
  }
  console.log(`Group 4 of ${sizes!.length} sheets beside libtiff's: size ${median(sizes!).toFixed(4)} (most ${Math.max(...sizes!).toFixed(4)}), time ${median(times!).toFixed(2)} (theirs with start and disk)`); // prettier-ignore
  return { g4Size: +median(sizes!).toFixed(4), g4Time: +median(times!).toFixed(2) };
}
