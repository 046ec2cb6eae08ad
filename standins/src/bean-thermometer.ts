import { parseArgs } from 'node:util';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';

/**
 * A simulated bean thermometer: follows a plain warming curve with noise and posts through the same door
 * as a real board. `node standins/dist/bean-thermometer.js --token … [--url http://127.0.0.1:4310] [--speed 60]`
 */
const { values } = parseArgs({
  options: {
    token: { type: 'string' },
    url: { type: 'string', default: 'http://127.0.0.1:4310' },
    /** Seconds of roast for each second of clock. */
    speed: { type: 'string', default: '1' },
    minutes: { type: 'string', default: '25' },
    every: { type: 'string', default: '5' },
    seed: { type: 'string', default: '7' },
  },
});

/** Bean temperature of a plain roast, °C, after some seconds: rises from the room towards the oven. */
function beanTemperature(seconds: number): number {
  const oven = 132;
  return oven - (oven - 22) * Math.exp(-seconds / 480);
}

const random = seededRandom(Number(values.seed));
const speed = Number(values.speed);
const every = Number(values.every);
const start = Date.now();
for (let t = 0; t <= Number(values.minutes) * 60; t += every) {
  const celsius = Math.round((beanTemperature(t) + 0.3 * normalDraw(random)) * 10) / 10;
  const at = new Date(start + t * 1000).toISOString();
  const response = await fetch(`${values.url}/api/door/readings`, {
    method: 'POST',
    headers: { authorization: `Bearer ${values.token}`, 'content-type': 'application/json' },
    body: JSON.stringify({ at, celsius, place: 'bean' }),
  });
  if (!response.ok) {
    console.error(await response.text());
    process.exit(1);
  }
  await new Promise((resolve) => setTimeout(resolve, (every * 1000) / speed));
}
