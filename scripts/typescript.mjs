// Lets Node run TypeScript as it is written: `node --import ./scripts/typescript.mjs`. The unit tests run so, since what the runner of the other
// commands adds to keep each function's name doubles the time of numerical code.
import { register } from 'node:module';

register('./typescriptHooks.mjs', import.meta.url);
