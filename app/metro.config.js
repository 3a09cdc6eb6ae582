const http = require('node:http');
const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push('wasm');

// Metro does not tree-shake: keep Zod's fifty message languages out of the bundle.
const previous = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, moduleName, platform) => {
  if (/locales\/index\.(c?js|mjs)$/.test(moduleName) && /[\\/]node_modules[\\/]zod[\\/]/.test(context.originModulePath))
    return { type: 'empty' };
  return (previous ?? context.resolveRequest)(context, moduleName, platform);
};

// While developing, the server runs beside Metro: hand its addresses on.
const serverPort = Number(process.env.LIBRETTO_SERVER_PORT ?? 4170);
config.server.enhanceMiddleware = (metro) => (request, response, next) => {
  if (!/^\/(api|demo|stand-ins)\//.test(request.url)) return metro(request, response, next);
  const { origin: _origin, ...headers } = request.headers;
  const onward = http.request(
    {
      port: serverPort,
      host: '127.0.0.1',
      path: request.url,
      method: request.method,
      headers: { ...headers, host: `127.0.0.1:${serverPort}` },
    },
    (answer) => {
      response.writeHead(answer.statusCode, answer.headers);
      answer.pipe(response);
    },
  );
  onward.on('error', () => response.writeHead(502).end());
  request.pipe(onward);
};

module.exports = config;
