import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** Our server with the built app, on this machine only, once it answers. @param data its folder; one of its own where none is given. */
export async function served(port: number, data = mkdtempSync(path.join(tmpdir(), 'libretto-bench-'))): Promise<ChildProcess> {
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, PORT: String(port), LIBRETTO_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => server.stdout.once('data', resolve));
  return server;
}
