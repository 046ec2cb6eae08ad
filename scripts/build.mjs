// Builds the pages and the server, and prepares the empty database that new workshops are copied from.
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { ensurePackages, root, runBeside } from './setup.mjs';

/** Newest change below some folders, ms. */
function newest(paths) {
  let last = 0;
  const look = (path) => {
    const stat = statSync(path);
    if (stat.isDirectory()) {
      for (const name of readdirSync(path))
        if (name !== 'node_modules' && name !== 'dist') look(join(path, name));
    } else last = Math.max(last, stat.mtimeMs);
  };
  paths.filter((p) => existsSync(p)).forEach(look);
  return last;
}

/** The last tenth of what could be saved takes twenty times as long, which every first start would wait for. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } };

async function compress(folder) {
  for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
    const path = join(folder, name);
    if (!/\.(js|css|html|svg)$/.test(name)) continue;
    const bytes = readFileSync(path);
    writeFileSync(`${path}.gz`, await promisify(gzip)(bytes, { level: 9 }));
    writeFileSync(`${path}.br`, await promisify(brotliCompress)(bytes, BROTLI));
  }
}

/** What is run by Node, and where it is written to. */
const PROGRAMS = {
  'server/dist/start': 'server/src/start.ts',
  'server/dist/parseFile': 'server/src/readings/parseFile.ts',
  'server/dist/openArchive': 'server/src/backups/openArchive.ts',
  'server/dist/tools': 'server/src/tools/main.ts',
  'server/dist/prepare': 'server/src/db/prepare.ts',
  'demo/dist/start': 'demo/src/start.ts',
  ...Object.fromEntries(
    ['oven', 'bowl', 'scale', 'room'].map((name) => [`standins/dist/${name}`, `standins/src/${name}.ts`]),
  ),
};

/** Packages that look for files beside their own. */
const APART = ['@electric-sql/pglite', 'pino', 'piscina', 'pg-native'];

/** A map without places: an error in a package shows where in the bundle it was thrown, and maps stay small. */
const NO_PLACES = `\n//# sourceMappingURL=data:application/json;base64,${Buffer.from(
  '{"version":3,"sources":[""],"mappings":"A"}',
).toString('base64')}`;

/**
 * Bundles what is run by Node together with its packages: a server that reads some thousand small files of packages one by one takes half as long
 * again to open. What several programs share is written once, one folder below the root as they are, since some files are looked for from there.
 */
async function bundlePrograms() {
  const { build: bundle } = await import('esbuild');
  await bundle({
    absWorkingDir: root,
    entryPoints: Object.entries(PROGRAMS).map(([out, from]) => ({ in: from, out })),
    outdir: root,
    chunkNames: 'server/dist/[name]-[hash]',
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    minifyWhitespace: true,
    minifySyntax: true,
    legalComments: 'none',
    sourcemap: true,
    sourcesContent: false,
    external: APART,
    // Packages of the older kind ask for Node's own modules by a function that newer ones do not have.
    banner: {
      js: "import{createRequire as $require}from'node:module';globalThis.require??=$require(import.meta.url);",
    },
    plugins: [
      {
        name: 'packages without places',
        setup: (b) =>
          b.onLoad({ filter: /node_modules\/.*\.[cm]?js$/ }, ({ path }) => ({
            contents: readFileSync(path, 'utf8') + NO_PLACES,
            loader: 'default',
          })),
      },
    ],
    logLevel: 'warning',
  });
}

/** Takes away what was built before some moment, ms. */
function removeBuiltBefore(folder, moment) {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).mtimeMs < moment) rmSync(path, { recursive: true });
  }
}

/** Builds what has changed since the last build; other things may go on meanwhile. */
export async function build({ force = false } = {}) {
  ensurePackages();
  const mark = join(root, 'web/dist/.built');
  const sources = [
    'core',
    'contract',
    'server',
    'web',
    'demo',
    'standins',
    'package-lock.json',
    'scripts/build.mjs',
  ].map((p) => join(root, p));
  if (
    !force &&
    existsSync(mark) &&
    existsSync(join(root, 'server/dist/start.js')) &&
    statSync(mark).mtimeMs > newest(sources)
  )
    return;
  console.log('building …');
  const begun = Date.now();
  // What the last build made stays for another: a server that runs goes on reading parts of it, whose names are those of no newer ones.
  const lastBegun = existsSync(mark) ? Number(readFileSync(mark, 'utf8')) : begun;
  for (const folder of ['server', 'demo', 'standins'])
    removeBuiltBefore(join(root, folder, 'dist'), lastBegun);
  await bundlePrograms();
  await runBeside('npx', ['vite', 'build', '--logLevel', 'warn'], { cwd: join(root, 'web') });
  await compress(join(root, 'web/dist'));
  await runBeside('node', ['--enable-source-maps', 'server/dist/prepare.js']);
  writeFileSync(mark, String(begun));
}

if (process.argv[1]?.endsWith('build.mjs')) await build({ force: true });
