import { rmSync } from 'node:fs';
import { schema, serve } from '@wunsch/server';
import { fillSaltmarsh } from './saltmarsh.ts';

const directory = process.env.WUNSCH_DATA ?? 'data/demo';
if (process.argv.includes('--fresh')) rmSync(directory, { recursive: true, force: true });

await serve({
  directory,
  onOpen: async (store) => {
    const [there] = await store.db.select().from(schema.workshop);
    if (there) {
      console.log(
        'the demo workshop as you left it; npm run demo -- --fresh makes it anew, dated from today',
      );
      return;
    }
    const count = await fillSaltmarsh(store, { now: Date.now() });
    console.log(`made Saltmarsh Row from ${count} entries`);
  },
});
