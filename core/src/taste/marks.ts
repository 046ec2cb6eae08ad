import type { OpenedSession, SessionQuestion } from './answer.ts';
import type { ForcedChoice } from './discrimination.ts';
import { currentNote, type NoteList } from './noteList.ts';
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

/** A card of an opened session, as the ledger has it. */
export interface OpenedCardFacts {
  sampleId: string;
  name: string;
  round: number;
  /** 1 the first impression. */
  nth: number;
  right: boolean | null;
  card: MarkedCard | { form: 'choice' };
}

/**
 * What {@link analyseSession} is asked, from the cards of an opened session: first impressions, and nothing that was said after going back.
 *
 * @param renames what older words for notes have become
 */
export function openedSession(
  session: {
    question: SessionQuestion;
    margin: number;
    referenceId: string | null;
    test: ForcedChoice;
    samples: readonly { id: string }[];
  },
  cards: readonly OpenedCardFacts[],
  renames: NoteList['renames'] = {},
): OpenedSession {
  const first = cards.filter((c) => c.nth === 1);
  return {
    question: session.question,
    margin: session.margin,
    reference: session.referenceId ?? session.samples[0]?.id,
    test: session.test,
    scores: first.flatMap(({ card, sampleId, name, round }) =>
      card.form === 'choice'
        ? []
        : [
            {
              sample: sampleId,
              assessor: name,
              round: String(round),
              marks: marksOf(card),
              strip:
                card.form === 'full'
                  ? card.strip.map((s) => ({ ...s, note: currentNote(s.note, renames) }))
                  : [],
            },
          ],
    ),
    choices: first.flatMap((c) => (c.right === null ? [] : [{ assessor: c.name, right: c.right }])),
  };
}
