// What the server lets in and what every answer carries, as plain functions.

/** Names that are answered; NOD_SWAY_HOSTS adds others, as a comma list. */
const OWN_HOSTS = ['127.0.0.1', 'localhost', '[::1]'];

/** Whether a Host header names this server, whatever the port. */
function isOwnHost(header, more = process.env.NOD_SWAY_HOSTS ?? '') {
  const host = String(header ?? '')
    .toLowerCase()
    .replace(/:\d{1,5}$/, '');
  return [
    ...OWN_HOSTS,
    ...more
      .toLowerCase()
      .split(',')
      .map((h) => h.trim())
      .filter(Boolean),
  ].includes(host);
}

/** The path of a request's address, or null where its escapes are broken. */
function pathOf(url) {
  const path = String(url).split(/[?#]/, 1)[0];
  try {
    decodeURIComponent(String(url));
    return decodeURIComponent(path);
  } catch {
    return null;
  }
}

/**
 * The path and query that a request line asks for, and the host that it names where it gives a whole address (RFC 9112, 3.2.2); null
 * where it asks for neither, as with `*`.
 */
function targetOf(url) {
  const text = String(url);
  if (/^\/(?![/\\])/.test(text)) return { url: text };
  const whole = /^https?:\/\/([^/?#]*)([/?#].*)?$/i.exec(text);
  if (!whole) return null;
  const rest = whole[2] ?? '/';
  const path = rest.startsWith('/') ? rest : `/${rest}`;
  return /^\/[/\\]/.test(path) ? null : { host: whole[1], url: path };
}

/** Origins whose pages may call the API: NOD_SWAY_ORIGINS, as a comma list. */
const namedOrigins = (more) =>
  more
    .split(',')
    .map((o) => o.trim().toLowerCase().replace(/\/$/, ''))
    .filter(Boolean);

/**
 * Whether a page of another server sent a request (Fetch Metadata, Sec-Fetch-Site; or an Origin that is not the server's own), and the
 * named origin that it came from, where that is one.
 * @param {import('node:http').IncomingHttpHeaders} headers
 */
function senderOf({ origin, host, 'sec-fetch-site': site }, more = process.env.NOD_SWAY_ORIGINS ?? '') {
  const from = origin === undefined ? undefined : String(origin).toLowerCase();
  if (from !== undefined && namedOrigins(more).includes(from)) return { isForeign: false, named: String(origin) };
  const own = from === undefined || from === `http://${String(host).toLowerCase()}` || from === `https://${String(host).toLowerCase()}`;
  return { isForeign: !own || String(site ?? '').toLowerCase() === 'cross-site' };
}

/** Methods that a path knows. */
const methodsOf = (path) => (path.startsWith('/api/') ? ['POST'] : ['GET', 'HEAD']);

/** Pages are what has no ending and no place of its own: everything else is a script, a style, a picture or the API's answer. */
const isPage = (path) => !path.startsWith('/_next/') && !path.startsWith('/api/') && !/\.\w{2,5}$/.test(path);

/** Headers of every answer. */
const EVERYWHERE = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'Permissions-Policy': 'midi=(self), camera=(), microphone=(), geolocation=(), payment=(), usb=()',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

/**
 * Headers of a page, and of what is none. Scripts come from here alone, inline ones only where they are those of the built pages, by their
 * hashes: nonces would make pages that cannot be kept for working offline. What is no page has no inline script, and a shorter policy: it
 * is sent with each of many small files.
 */
function headersOf(scriptHashes) {
  const policy = [
    "default-src 'self'",
    `script-src 'self' ${scriptHashes.map((h) => `'${h}'`).join(' ')}`.trim(),
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ];
  return {
    page: {
      ...EVERYWHERE,
      'Content-Security-Policy': policy.join('; '),
      'X-Frame-Options': 'DENY',
      'Cross-Origin-Opener-Policy': 'same-origin',
    },
    other: { ...EVERYWHERE, 'Content-Security-Policy': "default-src 'self'; script-src 'self'; worker-src 'self'; frame-ancestors 'none'" },
  };
}

module.exports = { OWN_HOSTS, isOwnHost, pathOf, targetOf, senderOf, methodsOf, isPage, headersOf };
