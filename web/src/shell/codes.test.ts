import type { FindHit } from '@wunsch/contract';
import { idOf } from '../testing/views.ts';
import { KeyBurst } from './burst.ts';
import { saidBy, thingOf } from './codes.ts';

const hit = (kind: FindHit['kind'], title: string): FindHit => ({
  kind,
  id: title,
  title,
  detail: '',
  state: null,
  path: `/${kind}/${title}`,
});

test('a code says a batch by its page, or a thing by what stands on it', () => {
  expect(saidBy(`https://192.168.1.20:4310/batch/${idOf(10)}`)).toEqual({ batchId: idOf(10) });
  expect(saidBy('https://bars.example/bar/NK-06-261125')).toEqual({ code: 'NK-06-261125' });
  expect(saidBy('BOX 7')).toEqual({ code: 'BOX 7' });
  for (const nonsense of ['', '?', 'javascript:alert(1)', 'x'.repeat(200)])
    expect(saidBy(nonsense)).toBeNull();
});

test('a code opens exactly what it names; a bar without a moulding of its own opens its batch; a note never', async () => {
  const book = [
    hit('bars', 'NK-06-261125'),
    hit('batch', 'NK-06'),
    hit('note', 'NK-07'),
    hit('box', 'BOX-7'),
  ];
  const read = <T>(path: string) => {
    const sought = decodeURIComponent(path.split('q=')[1]!).toLowerCase();
    return Promise.resolve(book.filter((h) => h.title.toLowerCase().includes(sought)) as T);
  };
  expect((await thingOf('nk-06-261125', read))?.path).toBe('/bars/NK-06-261125');
  expect((await thingOf('NK-06-261130', read))?.path).toBe('/batch/NK-06');
  expect((await thingOf('BOX-7', read))?.path).toBe('/box/BOX-7');
  expect(await thingOf('NK-07', read)).toBeNull();
  expect(await thingOf('NK', read)).toBeNull();
});

describe('a scanner that types', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());
  const burstOf = () => {
    const said: string[] = [];
    const burst = new KeyBurst({ code: (c) => said.push(`code ${c}`), key: (k) => said.push(k) });
    return { burst, said };
  };
  test('is a code at its Enter, and none of its signs does what its key would', () => {
    const { burst, said } = burstOf();
    for (const sign of '1u4t') burst.press(sign);
    expect(burst.enter()).toBe(true);
    jest.advanceTimersByTime(1000);
    expect(said).toEqual(['code 1u4t']);
  });
  test('a hand’s keys do what they do, in order, also where they come fast; Enter stays Enter', () => {
    const { burst, said } = burstOf();
    burst.press('3');
    burst.press('w');
    jest.advanceTimersByTime(100);
    expect(said).toEqual(['3', 'w']);
    burst.press('u');
    expect(burst.enter()).toBe(false);
    expect(said).toEqual(['3', 'w', 'u']);
    for (const sign of 'slow') {
      burst.press(sign);
      jest.advanceTimersByTime(120);
    }
    expect(burst.enter()).toBe(false);
  });
});
