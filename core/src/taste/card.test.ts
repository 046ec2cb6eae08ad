import fc from 'fast-check';
import { leadingNotes, STARTER_NOTES, STRIP_SECONDS, type Stroke } from './index.ts';

const stroke: fc.Arbitrary<Stroke> = fc
  .record({
    note: fc.constantFrom('berry', 'toast', 'honey', 'earth'),
    from: fc.integer({ min: 0, max: STRIP_SECONDS - 1 }),
    length: fc.integer({ min: 1, max: STRIP_SECONDS }),
    strength: fc.integer({ min: 1, max: 5 }),
  })
  .map(({ length, ...s }) => ({ ...s, to: Math.min(STRIP_SECONDS, s.from + length) }));

test('a note that returns leads twice', () =>
  expect(
    leadingNotes([
      { note: 'toast', from: 0, to: 100, strength: 2 },
      { note: 'berry', from: 20, to: 40, strength: 4 },
      { note: 'berry', from: 60, to: 70, strength: 3 },
    ]),
  ).toEqual([
    { note: 'toast', from: 0, to: 20 },
    { note: 'berry', from: 20, to: 40 },
    { note: 'toast', from: 40, to: 60 },
    { note: 'berry', from: 60, to: 70 },
    { note: 'toast', from: 70, to: 100 },
  ]));

test('silence between two notes is silence', () =>
  expect(
    leadingNotes([
      { note: 'berry', from: 0, to: 10, strength: 1 },
      { note: 'berry', from: 50, to: 60, strength: 1 },
    ]),
  ).toEqual([
    { note: 'berry', from: 0, to: 10 },
    { note: null, from: 10, to: 50 },
    { note: 'berry', from: 50, to: 60 },
  ]));

test('whatever is laid: leads join without gap or overlap, from the first stroke to the last, and no neighbour repeats', () => {
  fc.assert(
    fc.property(fc.array(stroke, { minLength: 1, maxLength: 12 }), (strokes) => {
      const leads = leadingNotes(strokes);
      expect(leads[0]!.from).toBe(Math.min(...strokes.map((s) => s.from)));
      expect(leads.at(-1)!.to).toBe(Math.max(...strokes.map((s) => s.to)));
      leads.slice(1).forEach((lead, i) => {
        expect(lead.from).toBe(leads[i]!.to);
        expect(lead.note).not.toBe(leads[i]!.note);
      });
    }),
  );
});

test('at every moment the lead is as strong as anything felt there', () => {
  fc.assert(
    fc.property(
      fc.array(stroke, { minLength: 1, maxLength: 10 }),
      fc.double({ min: 0, max: STRIP_SECONDS, noNaN: true }),
      (strokes, at) => {
        const felt = strokes.filter((s) => s.from < at && at < s.to);
        const lead = leadingNotes(strokes).find((l) => l.from < at && at < l.to);
        if (!lead) return;
        const strongest = Math.max(0, ...felt.map((s) => s.strength));
        if (lead.note === null) expect(felt).toEqual([]);
        else expect(felt.some((s) => s.note === lead.note && s.strength === strongest)).toBe(true);
      },
    ),
  );
});

test('no strokes, no lead', () => expect(leadingNotes([])).toEqual([]));

test('the starting words are each in one family only', () => {
  const all = Object.values(STARTER_NOTES).flat();
  expect(new Set(all).size).toBe(all.length);
  expect(all.length).toBeGreaterThan(20);
});
