// The production server: the framework's own, behind a gate that answers what the framework would stumble over.
import { createServer } from 'node:http';
import { parseArgs } from 'node:util';
import { fileURLToPath } from 'node:url';
import next from 'next';
import { SECURITY_HEADERS } from './securityHeaders.mjs';

const METHODS = ['GET', 'HEAD', 'POST', 'OPTIONS'];

/** @returns why a request is turned away: status and sentence; undefined when it may pass */
function refusal({ method = '', url = '' }) {
  if (!METHODS.includes(method)) return [405, `Marsh's server does not know ${method}.`];
  try {
    // a path that is no text would be an error of the server instead of one of who asks (RFC 3986, 2.1)
    decodeURIComponent(url.split(/[?#]/, 1)[0]);
    return undefined;
  } catch {
    return [400, 'The address is not well formed.'];
  }
}

const { values } = parseArgs({
  options: { hostname: { type: 'string', short: 'H' }, port: { type: 'string', short: 'p' } },
});
const [hostname, port] = [values.hostname ?? '127.0.0.1', Number(values.port ?? 3000)];
process.env.NODE_ENV = 'production';
const app = next({ dev: false, dir: fileURLToPath(new URL('..', import.meta.url)), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
createServer((request, response) => {
  const refused = refusal(request);
  if (!refused) return handle(request, response);
  const [status, error] = refused;
  for (const { key, value } of SECURITY_HEADERS) response.setHeader(key, value);
  response.setHeader('Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'");
  if (status === 405) response.setHeader('Allow', METHODS.join(', '));
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify({ error }));
}).listen(port, hostname);
