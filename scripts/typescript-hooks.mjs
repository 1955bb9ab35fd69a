// Takes the types off a module on its way into Node. Functions are not named as they are made, as packages for this do: that costs core an eighth of its time.
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { transform } from 'esbuild';

export async function load(url, context, next) {
  const { protocol, pathname } = new URL(url);
  if (protocol !== 'file:' || !/\.tsx?$/.test(pathname)) return next(url, context);
  const sourcefile = fileURLToPath(url);
  const { code } = await transform(await readFile(sourcefile, 'utf8'), {
    loader: pathname.endsWith('x') ? 'tsx' : 'ts',
    format: 'esm',
    jsx: 'automatic',
    sourcemap: 'inline',
    sourcefile,
  });
  return { format: 'module', source: code, shortCircuit: true };
}
