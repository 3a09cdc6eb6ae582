const http = require('node:http');
const path = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push('wasm');

// Metro does not tree-shake: what nothing uses is kept out of the bundle by hand.
const inPackage = (name, origin) => origin.includes(`${path.sep}node_modules${path.sep}${name}${path.sep}`);
const ours = (file) => ({ type: 'sourceFile', filePath: path.join(__dirname, file) });
const previous = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, moduleName, platform) => {
  const origin = context.originModulePath;
  if (/^react-native(-web(\/dist(\/index)?)?)?$/.test(moduleName)) return ours('bundle/reactNative.js');
  // Animated lists.
  if (/components\/Animated(Flat|Section)List$/.test(moduleName)) return ours('bundle/nothing.js');
  // Words with markup in them.
  if (/\.\/(Icu)?Trans(WithoutContext)?(Utils.*)?\.js$/.test(moduleName) && inPackage('react-i18next', origin))
    return ours('bundle/nothing.js');
  if (/\/colors$/.test(moduleName) && inPackage('react-native-paper', origin)) return ours('bundle/paperColors.js');
  if (moduleName === 'color-name') return ours('bundle/colorNames.js');
  // AsyncStorage brings a copy of its own.
  if (moduleName === 'idb') return { type: 'sourceFile', filePath: path.join(path.dirname(require.resolve('idb')), 'index.js') };
  if (moduleName === 'zod/mini') return ours('bundle/built/zod.js');
  if (moduleName === '@zip.js/zip.js') return ours('bundle/built/zip.js');
  if (moduleName === './file' && inPackage('file-selector', origin)) return ours('bundle/fileSelector.js');
  // The icon font: Paper's own icons are drawn as ours are.
  if (moduleName === '@expo/vector-icons/MaterialCommunityIcons') return ours('src/ui/icons.tsx');
  if (moduleName === 'expo-router' && !/[\\/]node_modules[\\/]/.test(origin)) return ours('bundle/expoRouter.js');
  if (/(^expo-router\/build|\.)\/link\/Link$/.test(moduleName)) return ours('bundle/link.js');
  if (inPackage('expo-router', origin)) {
    if (/native-stack\/createNativeStackNavigator$|react-navigation\/bottom-tabs$|views\/Sitemap$/.test(moduleName))
      return ours('bundle/noStack.js');
    if (moduleName === 'react-native-screens' || /react-helmet-async\/lib$/.test(moduleName)) return ours('bundle/noStack.js');
    if (/\/stack-utils$/.test(moduleName)) return { type: 'empty' };
  }
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
