import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { toString as qrOf } from 'qrcode';
import { prepareNetwork, type Listening } from './access/listen';
import { buildApp } from './app';
import { noConfig, readConfig, type Config } from './config';
import { drainMs } from './deliveries/carrying';
import { holdDataFolder } from './dataFolder';
import { startStandIns } from './standins/start';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../..');
const dataDir = path.resolve(process.env.LIBRETTO_DATA ?? path.join(root, 'data'));
const port = Number(process.env.PORT ?? 4170);
const host = process.env.LIBRETTO_HOST;
const cert = process.env.LIBRETTO_TLS_CERT;
const key = process.env.LIBRETTO_TLS_KEY;
const tlsPort = Number(process.env.LIBRETTO_TLS_PORT ?? port + 1);
const configFile = path.resolve(process.env.LIBRETTO_CONFIG ?? path.join(root, 'libretto.config.json'));

const url = process.env.LIBRETTO_DATABASE;
const lease = Number(process.env.LIBRETTO_LEASE_S ?? 60);
let config: Config = noConfig;
try {
  if (existsSync(configFile)) config = readConfig(configFile);
  else if (process.env.LIBRETTO_CONFIG) throw new Error('there is no such file');
} catch (error) {
  console.error(`${configFile}: ${(error as Error).message}`);
  process.exit(1);
}

if (process.argv.includes('--check-config')) {
  console.log(existsSync(configFile) ? `${configFile} fits` : `There is no ${configFile}: the stand-ins would be started`);
  for (const { kind, id, name } of config.places) console.log(`${kind}\t${id}\t${name}`);
  process.exit(0);
}

let release: () => void;
try {
  release = holdDataFolder(dataDir);
} catch (error) {
  console.error(`${(error as Error).message}; choose another with LIBRETTO_DATA=…`);
  process.exit(1);
}
process.once('exit', release);

// With places of one's own the stand-ins stay away, unless they are asked for.
const wanted = process.env.LIBRETTO_STAND_INS ? process.env.LIBRETTO_STAND_INS !== '0' : config.places.length === 0;
const standIns = wanted ? await startStandIns(dataDir) : undefined;
const network = host
  ? await prepareNetwork({
      dataDir,
      host,
      port: tlsPort,
      own: cert && key ? { cert, key } : undefined,
      phrase: process.env.LIBRETTO_PASS_PHRASE,
      names: process.env.LIBRETTO_NAME ? [process.env.LIBRETTO_NAME] : [],
    }).catch((error: Error) => {
      console.error(`Libretto cannot be opened to the network: ${error.message}`);
      process.exit(1);
    })
  : undefined;
const app = await buildApp({
  places: [...config.places, ...(standIns?.places ?? [])],
  rules: config,
  dataDir,
  ...(url && { database: { url, leaseMs: lease * 1000 } }),
  webRoot: path.join(root, 'app/dist'),
  demoRoot: path.join(root, 'demo'),
  ...(standIns && { standIns }),
  ...(network && { network: network.network }),
  log: true,
}).catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});

let listening: Listening | undefined;
try {
  await app.listen({ host: '127.0.0.1', port });
  listening = await network?.listen(app);
} catch (error) {
  const { code, port: taken } = error as { code?: string; port?: number };
  console.error(
    code === 'EADDRINUSE'
      ? `Port ${taken ?? port} is in use; choose another with ${taken === tlsPort ? 'LIBRETTO_TLS_PORT' : 'PORT'}=…`
      : error,
  );
  process.exit(1);
}
console.log(`Libretto: http://localhost:${port}/`);
if (network) {
  const { address, certificate, devices } = network.network;
  console.log(`\nOn a phone of this network: ${address()}/`);
  console.log(await qrOf(`${address()}/pair/${devices.code()}`, { type: 'terminal', small: true }));
  console.log('The code pairs one device within ten minutes; for others see “Use on a phone” in the app.');
  if (network.made) console.log(`Pass phrase, shown this once: ${network.made}`);
  console.log(`SHA-256 of the certificate to trust: ${certificate().fingerprint}\n`);
}
if (standIns) console.log(`What has arrived at the stand-ins: http://localhost:${port}/stand-ins/`);

let ending = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    // Asked twice, it goes at once.
    if (ending) process.exit(1);
    ending = true;
    // Deliveries that a mail server is taking over are waited for; the stand-ins answer until then.
    void Promise.all([listening?.close(), app.close()])
      .then(() => standIns?.close())
      .then(() => process.exit(0));
    setTimeout(() => process.exit(0), drainMs + 5000).unref();
  });
