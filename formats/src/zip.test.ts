import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { joined, sizeOf } from './parts';
import { zipOf } from './zip';

// Debian's Info-ZIP is not ours.
test('Info-ZIP finds every file whole, with its name: larger than a piece, empty, Blob or bytes', async () => {
  const large = new Uint8Array(9_000_000).map((_, i) => (i * 2654435761) >>> 24);
  const files = [
    { name: 'Hull survey – Seite 1.jpg', content: new Blob([large]) },
    { name: 'empty.txt', content: new Uint8Array() },
    { name: 'small.txt', content: new TextEncoder().encode('oak') },
  ];
  const parts = await zipOf(files);
  // None holds all of it.
  expect(Math.max(...parts.map((p) => p.size))).toBeLessThan(sizeOf(parts) / 2);
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-zip-'));
  const file = path.join(dir, 'x.zip');
  writeFileSync(file, await joined(parts));
  expect(execFileSync('unzip', ['-t', file]).toString()).toContain('No errors detected');
  execFileSync('unzip', ['-q', file, '-d', dir], { env: { ...process.env, LC_ALL: 'C.UTF-8' } });
  const hash = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
  expect(hash(readFileSync(path.join(dir, files[0]!.name)))).toBe(hash(large));
  expect(readFileSync(path.join(dir, 'empty.txt'))).toHaveLength(0);
  expect(readFileSync(path.join(dir, 'small.txt'), 'utf8')).toBe('oak');
});

test('what cannot be read is thrown', async () => {
  async function* broken() {
    yield { name: 'a', content: new Uint8Array(3) };
    throw new Error('gone');
  }
  await expect(zipOf(broken())).rejects.toThrow('gone');
});
