const DEFAULT_PORT = 4170;

/** The port named in the environment, or Ruvet's own where none is. @throws Error with a sentence that names the variable. */
export function readPort(wanted = ''): number {
  const port = wanted === '' ? DEFAULT_PORT : Number(wanted);
  if (!/^\d*$/.test(wanted) || port < 1 || port > 65_535)
    throw new Error(`PORT must be a whole number from 1 to 65535; it is "${wanted.slice(0, 40)}".`);
  return port;
}
