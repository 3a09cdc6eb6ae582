import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildApp } from './app';
import { readConfig, type PlaceConfig } from './config';
import { startStandIns } from './standins/start';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../..');
const dataDir = path.resolve(process.env.LIBRETTO_DATA ?? path.join(root, 'data'));
const port = Number(process.env.PORT ?? 4170);
const configFile = path.resolve(process.env.LIBRETTO_CONFIG ?? path.join(root, 'libretto.config.json'));

let places: PlaceConfig[] = [];
try {
  if (existsSync(configFile)) places = readConfig(configFile);
  else if (process.env.LIBRETTO_CONFIG) throw new Error('there is no such file');
} catch (error) {
  console.error(`${configFile}: ${(error as Error).message}`);
  process.exit(1);
}

// With places of one's own the stand-ins stay away, unless they are asked for.
const wanted = process.env.LIBRETTO_STAND_INS ? process.env.LIBRETTO_STAND_INS !== '0' : places.length === 0;
const standIns = wanted ? await startStandIns(dataDir) : undefined;
const app = await buildApp({
  places: [...places, ...(standIns?.places ?? [])],
  dataDir,
  webRoot: path.join(root, 'app/dist'),
  demoRoot: path.join(root, 'demo'),
  ...(standIns && { standIns }),
  log: true,
});

try {
  await app.listen({ host: '127.0.0.1', port });
} catch (error) {
  console.error(
    (error as { code?: string }).code === 'EADDRINUSE' ? `Port ${port} is in use; choose another with PORT=…` : error,
  );
  process.exit(1);
}
console.log(`Libretto: http://localhost:${port}/`);
if (standIns) console.log(`What has arrived at the stand-ins: http://localhost:${port}/stand-ins/`);

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    void Promise.all([app.close(), standIns?.close()]).then(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  });
