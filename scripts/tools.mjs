// npm run backup, restore and move: copies of a workshop, and the way between the embedded store and PostgreSQL.
import { build } from './build.mjs';
import { root } from './setup.mjs';
import { join } from 'node:path';

await build();
process.chdir(process.env.INIT_CWD ?? root);
await import(join(root, 'server/dist/tools.js'));
