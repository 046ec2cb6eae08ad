// npm start: a real workshop, kept in data/workshop (WUNSCH_DATA) or on a PostgreSQL server (DATABASE_URL).
import { build } from './build.mjs';
import { root } from './setup.mjs';
import { join } from 'node:path';

await build();
process.chdir(root);
await import(join(root, 'server/dist/start.js'));
