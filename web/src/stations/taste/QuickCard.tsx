import { TextArea } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { SaveCardButton } from './SaveCardButton.tsx';
import { ScoreRow } from './ScoreRow.tsx';
import type { SaveCard } from './useSave.ts';

interface QuickScores {
  sour: number | null;
  grit: number | null;
  liking: number | null;
  words: string;
}

/** The bench card: three taps and done. */
export function QuickCard({ save }: { save: SaveCard }) {
  const { t } = useWords();
  const { draft, change, keep } = useDraft<QuickScores>({ sour: null, grit: null, liking: null, words: '' });
  const { sour, grit, liking, words } = draft;
  const marks = { [t('basic.sour')]: sour, [t('texture.grit')]: grit, [t('liking')]: liking };
  const open = Object.keys(marks).filter((name) => marks[name] === null);
  return (
    <Panel title={t('taste.quick')} aside={t('taste.quick.hint')}>
      <ScoreRow
        name={t('basic.sour')}
        low={t('score.none')}
        high={t('score.very')}
        value={sour}
        onChange={(next) => change({ sour: next })}
      />
      <ScoreRow
        name={t('texture.grit')}
        low={t('score.none')}
        high={t('score.very')}
        value={grit}
        onChange={(next) => change({ grit: next })}
      />
      <ScoreRow
        name={t('liking')}
        low={t('score.not')}
        high={t('score.love')}
        value={liking}
        onChange={(next) => change({ liking: next })}
      />
      <TextArea
        label={t('taste.words')}
        value={words}
        onChange={(e) => change({ words: e.target.value })}
        maxLength={2000}
        rows={2}
      />
      <SaveCardButton
        open={open}
        onSave={() =>
          void keep(() => save({ form: 'quick', sour: sour!, grit: grit!, liking: liking!, words }))
        }
      />
    </Panel>
  );
}
