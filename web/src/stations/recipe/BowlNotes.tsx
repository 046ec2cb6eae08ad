import {
  butterForNextWord,
  estimateFlow,
  recipeFigures,
  recipeNotes,
  type RecipeLine,
  type RecipeNote,
} from '@wunsch/core/recipe';
import { Chip } from '../../ui/Panel.tsx';
import { useWords, type Words } from '../../words/words.tsx';

/** How the paste will flow, in a word, and what butter would move it one step. */
export function FlowLine({ lines, gritUm = 20 }: { lines: readonly RecipeLine[]; gritUm?: number }) {
  const words = useWords();
  const { t } = words;
  const f = recipeFigures(lines);
  if (f.totalMg === 0) return null;
  const flow = estimateFlow(f.composition, gritUm);
  const step = butterForNextWord(f.composition, gritUm);
  return (
    <p className="mt-3">
      <span className="text-ink-3">{t('flow')}</span> <strong>{t(`flow.${flow.word}`)}</strong>
      {Number.isFinite(flow.viscosity) && (
        <span className="text-ink-3">
          {' '}
          ({t('flow.about', { n: words.number(flow.viscosity, flow.viscosity < 1 ? 2 : 1) })})
        </span>
      )}
      {step && (
        <span className="block text-[12.5px] text-ink-2">
          {t('flow.step', {
            mass: words.mass(Math.round((step.grams / 100) * f.totalMg)),
            word: t(`flow.${step.word}`),
          })}
        </span>
      )}
      {flow.yieldRises && <span className="block text-[12.5px] text-bad">▲ {t('flow.yield')}</span>}
      <span className="block text-[12px] text-ink-3">{t('flow.estimate', { um: words.number(gritUm) })}</span>
    </p>
  );
}

function noteText(note: RecipeNote, words: Words): string {
  const { t } = words;
  const name = (n: string) => words.word('ingredient', n);
  switch (note.code) {
    case 'seizes':
      return `${t('note.seizes', { what: name(note.ingredient), water: words.number(note.water) })} ${note.dry ? t('note.seizes.dry', { dry: t(`dry.${note.dry}` as 'dry.vanilla') }) : ''}`;
    case 'water':
      return t(note.severity === 'warn' ? 'note.water.warn' : 'note.water', {
        water: words.number(note.water, 1),
      });
    case 'lecithin':
      return t('note.lecithin', { percent: words.number(note.percent, 2) });
    case 'other-fat':
      return t('note.other-fat', { percent: words.number(note.percent, 1) });
    case 'starch':
      return t('note.starch', { what: name(note.ingredient) });
    case 'damp-sugar':
      return t('note.damp-sugar', { what: name(note.ingredient), water: words.number(note.water, 1) });
    case 'coarse-sugar':
      return t('note.coarse-sugar', { what: name(note.ingredient), um: words.number(note.crystalUm) });
  }
}

/** What stands out in a bowl: what nobody knows, water, seizing, lecithin, other fats, sugars. */
export function BowlNotes({
  lines,
  unknown = [],
}: {
  lines: readonly RecipeLine[];
  /** Bought chocolate whose sheet does not say all that is in it. */
  unknown?: readonly string[];
}) {
  const words = useWords();
  const notes = recipeNotes(lines);
  if (notes.length === 0 && unknown.length === 0) return null;
  return (
    <ul className="mt-2 grid gap-1.5">
      {unknown.map((what) => (
        <li key={what}>
          <Chip tone="bad">{words.t('note.unknown', { what })}</Chip>
        </li>
      ))}
      {notes.map((n, i) => (
        <li key={i}>
          {n.severity === 'note' ? (
            <span className="text-[12.5px] text-ink-3">{noteText(n, words)}</span>
          ) : (
            <Chip tone="bad">{noteText(n, words)}</Chip>
          )}
        </li>
      ))}
    </ul>
  );
}
