// After `npm pack`: the workspace's manifest is back.
import { existsSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';

const manifest = path.join(import.meta.dirname, '../package.json');
if (existsSync(`${manifest}.workspace`)) renameSync(`${manifest}.workspace`, manifest);
rmSync(path.join(import.meta.dirname, '../LICENSE'), { force: true });
