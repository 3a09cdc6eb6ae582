// `npm start`: installs, builds, and starts the app with its demo and stand-ins. `npm start -- --phone` opens it to phones of the local network as well.
import { build, checkNode, install, run, serve } from './setup.mjs';

checkNode();
install();
if (process.argv.includes('--check-config')) {
  run(process.execPath, ['--import', 'tsx', 'server/src/main.ts', '--check-config']);
  process.exit(0);
}
build();
const phone = process.argv.includes('--phone');
const server = serve(phone ? { LIBRETTO_HOST: process.env.LIBRETTO_HOST ?? '0.0.0.0' } : {});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
