/** What a version consists of. */
export interface Shipped {
  /** Changes with anything in it. */
  version: string;
  files: readonly { key: string; url: string; headers?: Readonly<Record<string, string>> }[];
}

/** The page behind a path, as the build names it; null where there is none. @example pageOf('/bench/demo-low-tide') // 'bench' */
export function pageOf(path: string): string | null {
  if (path === '/') return 'index';
  if (path === '/grooves' || path === '/library' || path === '/guide') return path.slice(1);
  return /^\/bench\/[^/]+$/.test(path) ? 'bench' : null;
}

/** Where a page is kept: as a document, as the data that leads to it from another page, and as pieces of that, fetched ahead. */
export const documentKey = (page: string): string => `/@page/${page}`;
export const dataKey = (page: string): string => `/@data/${page}`;
export const pieceKey = (page: string, piece: string): string => `/@piece/${page}${piece}`;

/**
 * Under which key the answer to a request is kept; null: it is none of the application's files, and goes to the server.
 * @param isDocument the browser goes to it
 */
export function keyOf(url: URL, headers: Pick<Headers, 'get'>, origin: string, isDocument: boolean): string | null {
  if (url.origin !== origin || url.pathname.startsWith('/api/')) return null;
  const page = pageOf(url.pathname);
  if (page === null) return url.pathname;
  if (isDocument) return documentKey(page);
  if (headers.get('rsc') === null) return null;
  const piece = headers.get('next-router-segment-prefetch');
  return piece === null ? dataKey(page) : pieceKey(page, piece);
}
