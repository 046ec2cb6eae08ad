import { WorkshopClock } from './clock.ts';

const HOUR = 3_600_000;

/** A device whose own clock is so much ahead of the workshop's, ms, and what its page takes for the time there. */
function device(ahead: number) {
  let real = Date.UTC(2026, 10, 21, 8);
  let off = ahead;
  const clock = new WorkshopClock(() => real + off);
  return {
    clock,
    /** A beat of the server that was so long on its way, ms. */
    beat: (late = 30) => {
      clock.hear(real);
      // Its page takes it up only now.
      real += late;
      clock.hear(real - late);
      real += 20_000;
    },
    putRight: (to: number) => (off = to),
    off: () => clock.now() - real,
  };
}

test('until a server has told, the device’s own clock counts', () => {
  expect(device(7 * 60_000).off()).toBe(7 * 60_000);
});

test.each([7 * 60_000, -45_000, 26 * HOUR])('a clock that is %d ms off is put right', (ahead) => {
  const { beat, off } = device(ahead);
  beat();
  expect(Math.abs(off())).toBeLessThan(100);
});

test('clocks that agree as well as can be told are left alone', () => {
  const { beat, off } = device(800);
  beat();
  expect(off()).toBe(800);
});

test('a slow network does not make the workshop late: the quickest beat counts', () => {
  const { beat, off } = device(60_000);
  for (const late of [1800, 40, 2500, 900]) beat(late);
  expect(Math.abs(off())).toBeLessThan(100);
});

test('when somebody sets the device’s clock it goes by what is told from then on', () => {
  const { beat, putRight, off } = device(5 * 60_000);
  beat();
  putRight(0);
  beat();
  expect(off()).toBe(0);
});

test('what is no time is not taken', () => {
  const { clock, off } = device(0);
  for (const wrong of [NaN, Infinity]) clock.hear(wrong);
  expect(off()).toBe(0);
});
