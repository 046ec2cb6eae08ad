import { isFirstRunCode, newFirstRunCode } from './firstRunCode.ts';
import { Tries } from './tries.ts';

describe('wrong passwords', () => {
  let now = 0;
  const at = (seconds: number) => (now = seconds * 1000);
  const wrong = (tries: Tries, times: number, name = 'Ada', from = '10.0.0.9') => {
    for (let i = 0; i < times; i += 1) tries.wrong(name, from);
  };

  test('a few cost nothing; then each doubles the wait, to a quarter of an hour', () => {
    const tries = new Tries(() => now);
    at(0);
    wrong(tries, 4);
    expect(tries.wait('Ada', '10.0.0.9')).toBe(0);
    const waits = Array.from({ length: 8 }, () => {
      wrong(tries, 1);
      return tries.wait('ADA ', '10.0.0.9');
    });
    expect(waits).toEqual([30, 60, 120, 240, 480, 900, 900, 900]);
    at(899);
    expect(tries.wait('Ada', '10.0.0.9')).toBe(1);
    at(900);
    expect(tries.wait('Ada', '10.0.0.9')).toBe(0);
  });

  test('whoever guesses at a name shuts out nobody else: not its owner elsewhere, nor others there', () => {
    const tries = new Tries(() => now);
    wrong(tries, 40);
    expect(tries.wait('Ada', '10.0.0.9')).toBeGreaterThan(0);
    expect(tries.wait('Ada', '10.0.0.4')).toBe(0);
    expect(tries.wait('Noor', '10.0.0.9')).toBe(0);
  });

  test('the right password forgets them, and so does a day', () => {
    const tries = new Tries(() => now);
    at(0);
    wrong(tries, 7);
    wrong(tries, 1, 'Noor');
    expect(tries.list().map((t) => [t.name, t.count])).toEqual([
      ['Noor', 1],
      ['Ada', 7],
    ]);
    tries.right('ada', '10.0.0.9');
    expect(tries.wait('Ada', '10.0.0.9')).toBe(0);
    at(86_400);
    expect(tries.list()).toEqual([]);
  });

  test('a flood of made-up names is not kept for ever', () => {
    const tries = new Tries(() => now);
    for (let i = 0; i < 5000; i += 1) tries.wrong(`n${i}`, '10.0.0.9');
    expect(tries.list().length).toBe(2000);
  });
});

describe('the code of the first run', () => {
  test('is eight signs that nobody mistakes, another each time, and may be typed as people type', () => {
    const code = newFirstRunCode();
    expect(code).toMatch(/^[0-9A-HJKMNP-TV-Z]{4}-[0-9A-HJKMNP-TV-Z]{4}$/);
    expect(newFirstRunCode()).not.toBe(code);
    expect(isFirstRunCode(code, code)).toBe(true);
    expect(isFirstRunCode(` ${code.toLowerCase().replace('-', ' ')} `, code)).toBe(true);
    expect(isFirstRunCode('o1il-2345', '0111-2345')).toBe(true);
    for (const no of [undefined, '', code.slice(0, 7), `${code}0`, '0000-0000'])
      expect(isFirstRunCode(no, code === '0000-0000' ? '1111-1111' : code)).toBe(false);
  });
});
