// `npm start`: installs, builds, and starts the app with its demo and stand-ins.
import { build, checkNode, install, serve } from './setup.mjs';

checkNode();
install();
build();
const server = serve();
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
