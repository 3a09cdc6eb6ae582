// `npm run dev`: Metro with reload at 8081, the server with its stand-ins beside it.
import { spawn } from 'node:child_process';
import { checkNode, install, root, run, serve } from './setup.mjs';

checkNode();
install();
run('npm', ['run', '-s', 'prebuild', '-w', '@libretto/app']);
const port = process.env.PORT ?? '4170';
const server = serve({ PORT: port });
const metro = spawn('npx', ['expo', 'start', '--web', '--port', '8081'], {
  cwd: `${root}/app`,
  stdio: 'inherit',
  env: { ...process.env, EXPO_NO_TELEMETRY: '1', EXPO_OFFLINE: '1', LIBRETTO_SERVER_PORT: port },
});
const stop = () => {
  server.kill();
  metro.kill();
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
server.on('exit', stop);
metro.on('exit', (code) => {
  server.kill();
  process.exit(code ?? 0);
});
