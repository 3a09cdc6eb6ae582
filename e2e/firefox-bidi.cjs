#!/usr/bin/env node
// Starts Debian's Firefox ESR for Playwright's WebDriver BiDi channel, and answers for it the one command of every context that ESR 153 does not know.
const { spawn } = require('node:child_process');
const { WebSocketServer, WebSocket } = require('ws');

const unknown = new Set(['emulation.setMediaFeaturesOverride']);
const firefox = spawn('/usr/bin/firefox-esr', process.argv.slice(2), { stdio: ['ignore', 'inherit', 'pipe'] });
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP']) process.on(signal, () => firefox.kill(signal));
firefox.on('exit', (code) => process.exit(code ?? 0));

let text = '';
firefox.stderr.on('data', (chunk) => {
  text += chunk;
  for (let end; (end = text.indexOf('\n')) >= 0; text = text.slice(end + 1)) {
    const line = text.slice(0, end);
    const found = /BiDi listening on (ws:\/\/\S+)/.exec(line);
    if (found) relay(found[1]);
    else process.stderr.write(`${line}\n`);
  }
});

function relay(target) {
  const server = new WebSocketServer({ host: '127.0.0.1', port: 0, maxPayload: 0 }, () =>
    process.stderr.write(`WebDriver BiDi listening on ws://127.0.0.1:${server.address().port}\n`),
  );
  server.on('connection', (client, request) => {
    const fox = new WebSocket(target + request.url, { maxPayload: 0, perMessageDeflate: false });
    const waiting = [];
    client.on('message', (data) => {
      const message = String(data);
      const { id, method } = JSON.parse(message);
      if (unknown.has(method)) client.send(JSON.stringify({ id, type: 'success', result: {} }));
      else if (fox.readyState === WebSocket.OPEN) fox.send(message);
      else waiting.push(message);
    });
    fox.on('open', () => waiting.splice(0).forEach((message) => fox.send(message)));
    fox.on('message', (data) => client.send(String(data)));
    for (const [one, other] of [[client, fox], [fox, client]]) for (const event of ['close', 'error']) one.on(event, () => other.close()); // prettier-ignore
  });
}
