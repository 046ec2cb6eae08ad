import type { ClassProblem, ClassSeat, ClassView, GuestBarView } from '@wunsch/contract';
import { drawInOrder } from '@wunsch/core/ledger';
import type { Words } from '../words/words.tsx';

/** Letters of a guest’s address: none that look alike. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';

/** A guest’s address drawn at random: 60 bits, so that nobody guesses one. */
export const newGuestCode = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => LETTERS[byte % LETTERS.length]).join('');

/** What something a class takes is called: an ingredient, or a material of the line. */
export const stuffName = (name: string, words: Words): string =>
  words.word('material', words.word('ingredient', name));

/** Allergens with commas between. */
export const allergenList = (names: readonly string[], words: Words): string =>
  names.map((a) => words.word('allergen', a)).join(', ');

/** What is to be careful of with a guest, in words. */
export const findingText = (
  { allergen, where, others = [] }: ClassSeat['findings'][number] & { others?: readonly string[] },
  nameOf: ReadonlyMap<string, string>,
  words: Words,
): string =>
  words.t(`class.finding.${where}`, {
    allergen: words.word('allergen', allergen),
    others: others.map((id) => nameOf.get(id) ?? '').join(', '),
  });

/** What a guest weighs out, in words. */
export const weighingText = (bar: GuestBarView, words: Words): string =>
  [
    words.t('class.base.of', { mass: words.fineMass(bar.baseMg) }),
    ...(bar.sugarMg > 0 ? [words.t('class.sugar.of', { mass: words.fineMass(bar.sugarMg) })] : []),
    ...bar.flavours.map((f) => `${words.fineMass(f.massMg)} ${words.word('ingredient', f.name)}`),
  ].join(' + ');

/** A share of cacao to a tenth of a percent, never more than there is. */
export const atMost = (percent: number): number => Math.floor(percent * 10 + 1e-6) / 10;

/** A share of cacao as it is offered and chosen, %: whole where it is whole. */
export const shareText = (percent: number, words: Words): string =>
  words.percent(percent / 100, percent % 1 ? 1 : 0);

/** Whether another choice of the guest’s would help; else something is amiss with the class itself. */
export const liesWithGuest = (problem: ClassProblem): boolean =>
  problem === 'too-dark' || problem === 'too-light' || problem === 'no-room';

/** What a mass is taken from: the oldest parcels first, each as far as it goes. */
export const drawnFrom = (
  parcels: ClassView['needs'][number]['parcels'],
  massMg: number,
): { parcelId: string; massMg: number }[] =>
  drawInOrder(
    parcels.map(({ id, remainingMg }) => ({ id, count: remainingMg })),
    massMg,
  ).map(({ id, count }) => ({ parcelId: id, massMg: count }));

/** Guests who come; of a class that has been those who were there. */
export const comingTo = (view: ClassView): ClassView['guests'] =>
  view.guests.filter((g) => (view.held ? g.came === true : g.state === 'coming'));
