import type { ClassSeat, ClassView, GuestBarView } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';

/** Letters of a guest’s address: none that look alike. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';

/** A guest’s address drawn at random: 60 bits, so that nobody guesses one. */
export const newGuestCode = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => LETTERS[byte % LETTERS.length]).join('');

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
    words.t('class.base.of', { mass: words.mass(bar.baseMg) }),
    ...(bar.sugarMg > 0 ? [words.t('class.sugar.of', { mass: words.mass(bar.sugarMg) })] : []),
    ...bar.flavours.map((f) => `${words.mass(f.massMg)} ${words.word('ingredient', f.name)}`),
  ].join(' + ');

/** Guests who come. */
export const comingTo = (view: ClassView): ClassView['guests'] =>
  view.guests.filter((g) => g.state === 'coming');
