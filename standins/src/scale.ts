import { parseArgs } from 'node:util';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import { Board, pause } from './door.ts';

/** A simulated scale: shows a mass as it is filled and then stands still. `node standins/dist/scale.js --token … --grams 2452` */
const { values } = parseArgs({
  options: {
    token: { type: 'string', default: '' },
    url: { type: 'string', default: 'http://127.0.0.1:4310' },
    grams: { type: 'string', default: '2452' },
    resolution: { type: 'string', default: '2' },
    seconds: { type: 'string', default: '60' },
    seed: { type: 'string', default: '3' },
  },
});
const board = new Board(values.url, values.token);
const random = seededRandom(Number(values.seed));
const [aim, resolution] = [Number(values.grams), Number(values.resolution)];
for (let t = 0; t < Number(values.seconds); t += 0.5) {
  const filled = aim * Math.min(1, t / 4);
  const shaken = t < 5 ? 8 * normalDraw(random) : 0.4 * normalDraw(random);
  const grams = Math.max(0, Math.round((filled + shaken) / resolution) * resolution);
  const response = await board.post('/api/door/weights', { grams, stable: t >= 5 }).catch(() => null);
  if (response && response.status === 401) {
    console.error(await response.text());
    process.exit(1);
  }
  await pause(500);
}
