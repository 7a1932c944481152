// Serves the production build on 127.0.0.1: node server/serve.mjs [port]. Checks hosts, addresses and methods before anything else sees
// them.
import { existsSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import next from 'next';
import { headersOf, isOwnHost, isPage, methodsOf, pathOf, senderOf, targetOf } from './policy.cjs';
import { cutOffSlowReader } from './readers.cjs';
import { HASHES } from './script-hashes.mjs';

const PORT = Number(process.argv[2] ?? process.env.PORT ?? 3000);
/** A request that takes longer to come is cut off. */
const SLOWEST_REQUEST_MS = 30_000;
/** So long the rest of a refused body is still taken, so that the answer arrives before the line is cut. */
const LINGER_MS = 500;

if (!existsSync(HASHES)) {
  console.error('There is no build yet: run npm run build first.');
  process.exit(1);
}
const HEADERS = headersOf(JSON.parse(readFileSync(HASHES, 'utf8')));

const app = next({ dev: false, hostname: '127.0.0.1', port: PORT });
await app.prepare();
const handle = app.getRequestHandler();

const server = createServer({ requestTimeout: SLOWEST_REQUEST_MS, headersTimeout: 10_000, connectionsCheckingInterval: 2000 }, answer);
// What a client expects beside an answer is none of our business: it gets the same as any other.
server.on('checkExpectation', answer);

function answer(request, response) {
  const target = targetOf(request.url);
  if (target) request.url = target.url;
  if (target?.host !== undefined) request.headers.host = target.host;
  const path = target && pathOf(target.url);
  for (const [name, value] of Object.entries(path === null || isPage(path) ? HEADERS.page : HEADERS.other)) response.setHeader(name, value);
  response.on('finish', () => endLate(request));
  cutOffSlowReader(request, response);
  if (!isOwnHost(request.headers.host)) return refuse(response, 421, 'unknown-host', 'This server is not called that.');
  if (path === null) return refuse(response, 400, 'bad-address', 'This is no address of a page or a call.');
  const methods = methodsOf(path);
  if (!methods.includes(request.method)) {
    response.setHeader('Allow', methods.join(', '));
    return refuse(response, 405, 'method-not-allowed', `Use ${methods.join(' or ')}.`);
  }
  if (path.startsWith('/api/')) {
    const { isForeign, named } = senderOf(request.headers);
    if (isForeign) return refuse(response, 403, 'foreign-page', 'Pages of other servers may not call this one.');
    if (named) {
      response.setHeader('Access-Control-Allow-Origin', named);
      response.setHeader('Vary', 'Origin');
      response.setHeader('Cross-Origin-Resource-Policy', 'cross-origin');
    }
  }
  handle(request, response).catch((e) => {
    console.error(e);
    if (!response.headersSent) refuse(response, 400, 'bad-request', 'The request cannot be read.');
  });
}

server.on('clientError', (error, socket) => {
  if (!socket.writable) return socket.destroy();
  const status =
    error.code === 'ERR_HTTP_REQUEST_TIMEOUT'
      ? '408 Request Timeout'
      : error.code === 'HPE_HEADER_OVERFLOW'
        ? '431 Request Header Fields Too Large'
        : '400 Bad Request';
  const headers = Object.entries({ ...HEADERS.other, 'Content-Length': 0, Connection: 'close' }).map(
    ([name, value]) => `${name}: ${value}\r\n`,
  );
  socket.end(`HTTP/1.1 ${status}\r\n${headers.join('')}\r\n`);
});

function refuse(response, status, code, message) {
  response.statusCode = status;
  response.setHeader('Content-Type', 'application/json');
  response.end(JSON.stringify({ error: { code, message } }));
}

/** Answered before all of it came: the rest is not waited for. */
function endLate(request) {
  if (request.complete) return;
  request.resume();
  setTimeout(() => request.socket.destroy(), LINGER_MS).unref();
}

server.listen(PORT, '127.0.0.1', () => console.log(`Ready at http://127.0.0.1:${PORT}`));
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
}
