// npm run demo: the invented workshop Saltmarsh Row in data/demo. `npm run demo -- --fresh` makes it anew, dated from today.
import { build } from './build.mjs';
import { root } from './setup.mjs';
import { join } from 'node:path';

await build();
process.chdir(root);
await import(join(root, 'demo/dist/start.js'));
