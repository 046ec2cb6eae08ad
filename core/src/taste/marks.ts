import type { Basic, Stroke, Texture } from './card.ts';

/** What the two cards have in common for reckoning with them. */
export type MarkedCard =
  | { form: 'quick'; sour: number; grit: number; liking: number }
  | {
      form: 'full';
      look: { gloss: number | null };
      snap: { sound: number | null };
      basics: Partial<Record<Basic, { strength: number }>>;
      texture: Partial<Record<Texture, number>>;
      strip: readonly Stroke[];
      liking: number;
    };

/** A card’s marks by name, 0–10, those that were given: liking first, then sourness and grit under one name whichever card it was. */
export function marksOf(card: MarkedCard): Record<string, number> {
  if (card.form === 'quick') return { liking: card.liking, sour: card.sour, grit: card.grit };
  const marks: Record<string, number> = { liking: card.liking };
  for (const [basic, { strength }] of Object.entries(card.basics)) marks[basic] = strength;
  for (const [texture, mark] of Object.entries(card.texture)) marks[texture] = mark;
  if (card.look.gloss !== null) marks.gloss = card.look.gloss;
  if (card.snap.sound !== null) marks.snap = card.snap.sound;
  return marks;
}
