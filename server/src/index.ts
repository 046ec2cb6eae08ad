export { buildApp, type App } from './app.ts';
export { serve, type ServeOptions } from './main.ts';
export { openEmbedded, openServer, type Store } from './store.ts';
export { hashPassword } from './access/password.ts';
export { templateDirectory } from './db/template.ts';
export { openPglite, openPostgres, type Db } from './db/database.ts';
export * as schema from './db/schema/index.ts';
export { tokenHash } from './live/door.ts';
