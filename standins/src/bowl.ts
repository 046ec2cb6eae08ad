import { parseArgs } from 'node:util';
import { CHOCOLATE_TYPES, TEMPER_METHODS, type ChocolateType, type TemperMethod } from '@wunsch/core/temper';
import { simulatedBowl } from './bowlModel.ts';
import { Board, pause } from './door.ts';

/**
 * A simulated tempering bowl with a probe. It runs along a method's path as a hand would take it, with stirring nobody sees, adds noise,
 * dropouts and spikes, and posts through the same door as a real board:
 * `node standins/dist/bowl.js --token … [--method table] [--type dark] [--speed 60]`
 */
const { values } = parseArgs({
  options: {
    token: { type: 'string' },
    url: { type: 'string', default: 'http://127.0.0.1:4310' },
    method: { type: 'string', default: 'table' },
    type: { type: 'string', default: 'dark' },
    /** Seconds of bowl for each second of clock; readings carry the bowl's own time. */
    speed: { type: 'string', default: '1' },
    /** Seconds of bowl between readings. */
    every: { type: 'string', default: '5' },
    /** Seconds already gone by. */
    from: { type: 'string', default: '0' },
    seed: { type: 'string', default: '5' },
    dropout: { type: 'string', default: '0.01' },
    spikes: { type: 'string', default: '0.003' },
  },
});
const type = values.type as ChocolateType;
const method = values.method as TemperMethod;
if (!values.token || !CHOCOLATE_TYPES.includes(type) || !TEMPER_METHODS.includes(method)) {
  console.error(
    `needs --token … (made on the machine’s line in the settings), --type ${CHOCOLATE_TYPES.join('|')} and --method ${TEMPER_METHODS.join('|')}`,
  );
  process.exit(1);
}
const bowl = simulatedBowl({
  type,
  method,
  seed: Number(values.seed),
  dropout: Number(values.dropout),
  spikes: Number(values.spikes),
});
const [speed, every, from] = [Number(values.speed), Number(values.every), Number(values.from)];
const board = new Board(values.url, values.token);
const began = Date.now() - from * 1000;
const clock = performance.now();
let t = from;
for (; t <= bowl.seconds && !board.refused; t += every) {
  const celsius = bowl.read(t);
  if (celsius !== null)
    void board.send([{ at: new Date(began + t * 1000).toISOString(), celsius, place: 'bowl' }]);
  const due = clock + ((t + every - from) / speed) * 1000;
  await pause(Math.max(0, due - performance.now()));
}
await board.drain(30_000);
console.log(
  `${board.accepted} readings were taken${board.refused ? ' until the bowl was emptied' : ''}; cast then it would have been: ${bowl.verdictAt(t)}`,
);
