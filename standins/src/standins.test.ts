import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { hiddenBowl, simulatedBowl } from './bowlModel.ts';
import { Board } from './door.ts';
import { hiddenFigures, readPlan, simulatedOven } from './ovenModel.ts';

test('a plan is read from its short form, and nonsense is named', () => {
  expect(readPlan('110x10, 122x20.5').stages).toMatchObject([
    { setC: 110, minutes: 10 },
    { setC: 122, minutes: 20.5 },
  ]);
  expect(() => readPlan('hot')).toThrow(/not °C and minutes/);
});

test('the simulated oven is the same again for a seed, noisy, and sometimes silent', () => {
  const make = () => simulatedOven({ plan: readPlan('130x20'), loadKg: 2, seed: 4, dropout: 0.2 });
  const [a, b] = [make(), make()];
  const seconds = Array.from({ length: 200 }, (_, i) => i * 5);
  const first = seconds.map(a);
  expect(seconds.map(b)).toEqual(first);
  const silent = first.filter((r) => r.bean === null).length;
  expect(silent).toBeGreaterThan(15);
  expect(silent).toBeLessThan(80);
  const heard = first.filter((r) => r.bean !== null);
  expect(heard.at(-1)!.bean!).toBeGreaterThan(heard[0]!.bean! + 60);
  expect(hiddenFigures(4)).not.toEqual(hiddenFigures(5));
});

test('a board keeps what it could not send and sends it once, in order, when the server is back', async () => {
  let away = true;
  const got: number[] = [];
  const server = createServer((request, response) => {
    let text = '';
    request.on('data', (d: Buffer) => (text += d.toString()));
    request.on('end', () => {
      if (away) return response.writeHead(503).end();
      got.push(...(JSON.parse(text) as { readings: { celsius: number }[] }).readings.map((r) => r.celsius));
      response.writeHead(202).end('{}');
    });
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const board = new Board(`http://127.0.0.1:${(server.address() as AddressInfo).port}`, 't');
  for (let i = 0; i < 5; i += 1)
    await board.send([{ at: new Date(i).toISOString(), celsius: i, place: 'bean' }]);
  expect(board.accepted).toBe(0);
  away = false;
  await board.drain(5000);
  expect(got).toEqual([0, 1, 2, 3, 4]);
  expect(board.accepted).toBe(5);
  server.closeAllConnections();
  server.close();
});

test('a simulated bowl is the same again for a seed, noisy, silent at times, and comes out well where it is stirred', () => {
  const make = (more: object = {}) =>
    simulatedBowl({ type: 'dark', method: 'table', seed: 3, dropout: 0.1, spikes: 0.02, ...more });
  const [a, b] = [make(), make()];
  const seconds = Array.from({ length: 400 }, (_, i) => i * 5);
  const first = seconds.map(a.read);
  expect(seconds.map(b.read)).toEqual(first);
  expect(first.filter((c) => c === null).length).toBeGreaterThan(15);
  expect(first.some((c) => c !== null && c > 49)).toBe(true);
  expect(make().verdictAt(make().seconds - 600)).toBe('good');
  const still = { stirring: 0, probeOff: 0, lag: 30 };
  expect(make({ hidden: still }).verdictAt(make().seconds - 600)).toBe('under');
  expect(hiddenBowl(3)).not.toEqual(hiddenBowl(4));
});
