import type { RequestHandler, Response } from 'express';

/** Names this server answers to: its own machine's, and those in `RUVET_HOSTS` (names or addresses, separated by commas). */
const ownNames = (): ReadonlySet<string> =>
  new Set([
    'localhost',
    '127.0.0.1',
    '[::1]',
    ...(process.env['RUVET_HOSTS'] ?? '')
      .split(',')
      .map((name) => name.trim().toLowerCase())
      .filter((name) => name !== ''),
  ]);

/** The name of a host without its port; undefined for what is none. */
function nameOf(url: string): string | undefined {
  try {
    return new URL(url).hostname.toLowerCase();
  } catch {
    return undefined;
  }
}

/**
 * Lets in only requests that name this server, from its own pages: a page of another site whose name was made to lead here could otherwise read and
 * delete jobs with the browser of whoever looks at it.
 */
export function onlyOwnPages(refuse: (response: Response, detail: string) => void): RequestHandler {
  const names = ownNames();
  return (request, response, next) => {
    const host = request.headers.host;
    const name = host === undefined ? undefined : nameOf(`http://${host}`);
    if (name === undefined || !names.has(name))
      return refuse(response, 'This server is not known by that name. Name it in RUVET_HOSTS to reach it so.');
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`)
      return refuse(response, 'Only pages of this server may ask it.');
    next();
  };
}
