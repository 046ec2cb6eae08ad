// How a module of TypeScript is loaded: its types are taken out and nothing else is changed.
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { transform } from 'esbuild';

export async function load(url, context, next) {
  // A test file may be asked for anew, which stands behind a question mark.
  const filename = url.startsWith('file:') ? fileURLToPath(url.replace(/\?.*$/, '')) : '';
  if (!/\.tsx?$/.test(filename)) return next(url, context);
  const { code } = await transform(await readFile(filename, 'utf8'), {
    sourcefile: filename,
    loader: filename.endsWith('x') ? 'tsx' : 'ts',
    jsx: 'automatic',
    target: 'node20',
    supported: { 'import-attributes': true },
    sourcemap: 'inline',
    sourcesContent: false,
  });
  return { format: 'module', source: code, shortCircuit: true };
}
