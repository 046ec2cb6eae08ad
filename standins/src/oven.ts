import { parseArgs } from 'node:util';
import { Board, pause, type BoardReading } from './door.ts';
import { readPlan, simulatedOven } from './ovenModel.ts';

/**
 * A simulated oven with a bean and an air thermometer. It runs the roast model with figures nobody sees, adds noise, drift
 * and dropouts, and posts through the same door as a real board:
 * `node standins/dist/oven.js --token … [--url http://127.0.0.1:4310] [--plan 110x10,122x20,100x5] [--load 2.5] [--speed 60]`
 */
const { values } = parseArgs({
  options: {
    token: { type: 'string' },
    url: { type: 'string', default: 'http://127.0.0.1:4310' },
    plan: { type: 'string', default: '110x10,122x20,100x5' },
    load: { type: 'string', default: '2.5' },
    beans: { type: 'string', default: '90' },
    moisture: { type: 'string', default: '7' },
    /** Seconds of roast for each second of clock; readings carry the roast's own time. */
    speed: { type: 'string', default: '1' },
    /** Seconds of roast between readings. */
    every: { type: 'string', default: '2' },
    /** Seconds of roast already gone by. */
    from: { type: 'string', default: '0' },
    /** Further bean probes, to try a crowd of them. */
    probes: { type: 'string', default: '1' },
    seed: { type: 'string', default: '7' },
    /** Hidden figures of the oven instead of the seed’s: ln heat transfer, ln power, ln lag, offset. */
    figures: { type: 'string' },
    /** Minutes it goes on reading after its plan has ended, unless the beans come out before. */
    after: { type: 'string', default: '10' },
    dropout: { type: 'string', default: '0.01' },
  },
});
if (!values.token) {
  console.error('say which machine this is: --token … (made on the machine’s line in the settings)');
  process.exit(1);
}
const plan = readPlan(values.plan);
const [speed, every, from] = [Number(values.speed), Number(values.every), Number(values.from)];
const probes = simulatedOven({
  plan,
  loadKg: Number(values.load),
  bean: { beansPer100g: Number(values.beans), moisture: Number(values.moisture) },
  seed: Number(values.seed),
  dropout: Number(values.dropout),
  after: Number(values.after),
  figures: values.figures?.split(',').map(Number),
});
const board = new Board(values.url, values.token);
const length = plan.stages.reduce((s, x) => s + x.minutes * 60, 0) + Number(values.after) * 60;
const began = Date.now() - from * 1000;
const clock = performance.now();
for (let t = from; t <= length && !board.refused; t += every) {
  const read = probes(t);
  const at = new Date(began + t * 1000).toISOString();
  const readings: BoardReading[] = [];
  if (read.bean !== null) {
    readings.push({ at, celsius: read.bean, place: 'bean' });
    for (let p = 2; p <= Number(values.probes); p += 1)
      readings.push({
        at,
        celsius: Math.round((read.bean - p / 5) * 10) / 10,
        place: 'bean',
        probe: `tray ${p}`,
      });
  }
  if (read.oven !== null) readings.push({ at, celsius: read.oven, place: 'oven' });
  void board.send(readings);
  const due = clock + ((t + every - from) / speed) * 1000;
  await pause(Math.max(0, due - performance.now()));
}
await board.drain(30_000);
console.log(
  board.refused
    ? `the roast is over: ${board.accepted} readings were taken`
    : `${board.accepted} readings were taken`,
);
