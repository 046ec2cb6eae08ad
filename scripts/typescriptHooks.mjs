// How a module of TypeScript is loaded: its types are taken out and nothing else is changed.
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { transform } from 'esbuild';

const testing = new URL('../web/src/testing/', import.meta.url).href;

/** Charts are drawn by a browser only; in the tests of pages what they are given is read. */
export async function resolve(specifier, context, next) {
  const found = await next(specifier, context);
  return found.url.endsWith('/web/src/charts/apex.ts') ? { ...found, url: `${testing}apex.tsx` } : found;
}

/** The tests of pages share one document and one clock: each file begins on the same morning (see pageGlobals.mjs), and each test leaves the document as it was. */
const BEGINS = "globalThis[Symbol.for('wunsch.restart-clock')]();";
const LEAVES = `
import { leavePages } from '${testing}page.tsx';
afterEach(leavePages);`;

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
  const isPageTest = /\/web\/src\/.*\.test\.tsx?$/.test(filename);
  return { format: 'module', source: isPageTest ? BEGINS + code + LEAVES : code, shortCircuit: true };
}
