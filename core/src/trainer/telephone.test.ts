import {
  bowlCall,
  bowlPath,
  drawBowl,
  drawOvenAccident,
  ovenCall,
  runBowl,
  Telephone,
  whileThere,
  withAccident,
} from './index.ts';

describe('a telephone', () => {
  test('rings until it is taken, keeps hands away until one rings off, and is then over', () => {
    const phone = new Telephone({ rings: 100, lasts: 300 });
    expect([0, 99.9, 100, 250].map((s) => phone.state(s))).toEqual(['quiet', 'quiet', 'rings', 'rings']);
    expect(() => phone.take(50)).toThrow(/does not ring: it is quiet/);
    expect(() => phone.end(50)).toThrow(/nobody is on the telephone/);
    phone.take(120);
    expect(phone.state(130)).toBe('talking');
    expect(phone.away(150)).toEqual([{ from: 120, until: 150 }]);
    phone.end(160);
    expect(phone.state(161)).toBe('over');
    expect(phone.away(1000)).toEqual([{ from: 120, until: 160 }]);
    expect(() => phone.take(170)).toThrow(RangeError);
  });

  test('a caller who is not stopped has said it all some time; one who is let ring keeps nobody', () => {
    const talked = new Telephone({ rings: 10, lasts: 60 });
    talked.take(20);
    expect([talked.state(79), talked.state(80)]).toEqual(['talking', 'over']);
    expect(talked.away(500)).toEqual([{ from: 20, until: 80 }]);
    const left = new Telephone({ rings: 10, lasts: 60 });
    expect([left.state(69), left.state(70), left.away(500)]).toEqual(['rings', 'over', []]);
    const refused = new Telephone({ rings: 10, lasts: 60 });
    refused.end(12);
    expect([refused.state(13), refused.away(500)]).toEqual(['over', []]);
  });

  test('is refused where it could not be', () => {
    for (const call of [
      { rings: -1, lasts: 5 },
      { rings: 1, lasts: 0 },
      { rings: Number.NaN, lasts: 5 },
      { rings: 1, lasts: Infinity },
    ])
      expect(() => new Telephone(call)).toThrow(RangeError);
  });
});

test('a bowl nobody stirs for a call makes fewer crystals, and its temperature is the same', () => {
  const seed = Array.from({ length: 50 }, (_, k) => k).find(
    (k) => drawBowl(k, 3).accident!.kind === 'telephone',
  )!;
  const bowl = drawBowl(seed, 3);
  const call = bowlCall(bowl)!;
  const hands = { moved: [{ seconds: 30, place: 'cool' as const }], stirred: [] };
  const until = call.rings + call.lasts;
  const away = [{ from: call.rings, until }];
  expect(bowlPath(bowl, { ...hands, away }, until).map((p) => p.celsius)).toEqual(
    bowlPath(bowl, hands, until).map((p) => p.celsius),
  );
  const made = (h: Parameters<typeof runBowl>[1]) => {
    const run = runBowl(bowl, h, until);
    return run.stable.at(-1)! + run.unstable.at(-1)!;
  };
  expect(made({ ...hands, away })).toBeLessThan(0.9 * made(hands));
  expect(bowlCall(drawBowl(1, 2))).toBeNull();
});

test('at the oven half of all accidents are calls; what is said to have been done from the telephone was not', () => {
  const drawn = Array.from({ length: 200 }, (_, seed) => drawOvenAccident(seed, 3)!);
  const calls = drawn.filter((a) => a.kind === 'telephone');
  expect(calls.length / 200).toBeGreaterThan(0.4);
  expect(calls.length / 200).toBeLessThan(0.6);
  const [one] = calls;
  expect(ovenCall(one!)).toEqual({ rings: one!.at, lasts: 720 });
  expect(ovenCall(drawn.find((a) => a.kind !== 'telephone')!)).toBeNull();
  const stirs = [100, 500, 900].map((seconds) => ({ seconds, kind: 'stir' as const }));
  expect(withAccident(stirs, one!)).toEqual(stirs);
  expect(whileThere(stirs, [{ from: 400, until: 900 }]).map((s) => s.seconds)).toEqual([100, 900]);
});
