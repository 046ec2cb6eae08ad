// Builds the pages and the server, and prepares the empty database that new workshops are copied from.
import { gzipSync, brotliCompressSync } from 'node:zlib';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePackages, root, run } from './setup.mjs';

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

function compress(folder) {
  for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
    const path = join(folder, name);
    if (!/\.(js|css|html|svg)$/.test(name)) continue;
    const bytes = readFileSync(path);
    writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
    writeFileSync(`${path}.br`, brotliCompressSync(bytes));
  }
}

/** Builds what has changed since the last build. */
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
  const { build: bundle } = await import('esbuild');
  for (const folder of ['server', 'demo', 'standins'])
    rmSync(join(root, folder, 'dist'), { recursive: true, force: true });
  const ours = {
    name: 'ours',
    setup: (b) =>
      b.onResolve({ filter: /^[^./]/ }, (a) =>
        a.path.startsWith('@wunsch/') ? undefined : { path: a.path, external: true },
      ),
  };
  const common = {
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    plugins: [ours],
    logLevel: 'warning',
    absWorkingDir: root,
  };
  const entry = (from, to) => bundle({ ...common, entryPoints: [from], outfile: to });
  await entry('server/src/start.ts', 'server/dist/start.js');
  await entry('server/src/readings/parseFile.ts', 'server/dist/parseFile.js');
  await entry('server/src/backups/openArchive.ts', 'server/dist/openArchive.js');
  await entry('server/src/tools/main.ts', 'server/dist/tools.js');
  await entry('server/src/db/prepare.ts', 'server/dist/prepare.js');
  await entry('demo/src/start.ts', 'demo/dist/start.js');
  for (const name of ['oven', 'bowl', 'scale', 'room'])
    await entry(`standins/src/${name}.ts`, `standins/dist/${name}.js`);
  run('npx', ['vite', 'build', '--logLevel', 'warn'], { cwd: join(root, 'web') });
  compress(join(root, 'web/dist'));
  run('node', ['--enable-source-maps', 'server/dist/prepare.js']);
  writeFileSync(mark, '');
}

if (process.argv[1]?.endsWith('build.mjs')) await build({ force: true });
