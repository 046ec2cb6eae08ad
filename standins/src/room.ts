import { parseArgs } from 'node:util';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import { Board, pause } from './door.ts';

/** A simulated room sensor: temperature and humidity that wander. `node standins/dist/room.js --token …` */
const { values } = parseArgs({
  options: {
    token: { type: 'string', default: '' },
    url: { type: 'string', default: 'http://127.0.0.1:4310' },
    every: { type: 'string', default: '60' },
    times: { type: 'string', default: '1000000' },
    seed: { type: 'string', default: '5' },
  },
});
const board = new Board(values.url, values.token);
const random = seededRandom(Number(values.seed));
let [celsius, humidity] = [20, 54];
for (let i = 0; i < Number(values.times); i += 1) {
  celsius += 0.15 * normalDraw(random) + 0.02 * (20 - celsius);
  humidity += 0.8 * normalDraw(random) + 0.03 * (54 - humidity);
  const body = {
    celsius: Math.round(celsius * 10) / 10,
    humidity: Math.round(Math.min(99, Math.max(5, humidity))),
  };
  const response = await board.post('/api/door/room', body).catch(() => null);
  if (response && response.status === 401) {
    console.error(await response.text());
    process.exit(1);
  }
  await pause(Number(values.every) * 1000);
}
