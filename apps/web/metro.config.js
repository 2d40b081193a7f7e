const path = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const config = getDefaultConfig(__dirname);

// The dev server serves the app; the API runs beside it.
config.server.enhanceMiddleware = (metro) => (request, response, next) => {
  if (!request.url?.startsWith('/api')) return metro(request, response, next);
  const target = { host: '127.0.0.1', port: process.env.PORT_API ?? 4820, path: request.url, method: request.method };
  // Host and Origin go along as the browser sent them: the API keeps other pages out by them, here as anywhere.
  const proxied = require('node:http').request({ ...target, headers: request.headers }, (answer) => {
    response.writeHead(answer.statusCode, answer.headers);
    answer.pipe(response);
  });
  proxied.on('error', () => response.writeHead(502).end());
  request.pipe(proxied);
};

module.exports = withNativeWind(config, {
  input: path.join(__dirname, 'src/look/global.css'),
  configPath: path.join(__dirname, 'tailwind.config.js'),
  disableTypeScriptGeneration: true,
});
