import {
  BASICS,
  FAULTS,
  TEXTURES,
  type Basic,
  type Fault,
  type Fit,
  type Stroke,
  type Texture,
} from '@wunsch/core/taste';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextArea } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useKept } from '../../shell/useKept.ts';
import { useWords } from '../../words/words.tsx';
import { SaveCardButton } from './SaveCardButton.tsx';
import { ScoreRow } from './ScoreRow.tsx';
import { Notes } from './Notes.tsx';
import type { SaveCard } from './useSave.ts';

/** A card as it stands while it is filled in. */
interface Card {
  gloss: number | null;
  sound: number | null;
  smell: string;
  strokes: Stroke[];
  basics: Partial<Record<Basic, { strength: number; fit: Fit }>>;
  texture: Partial<Record<Texture, number>>;
  faults: Fault[];
  liking: number | null;
  sell: 'yes' | 'no' | null;
  free: string;
}

const BLANK: Card = {
  gloss: null,
  sound: null,
  smell: '',
  strokes: [],
  basics: {},
  texture: {},
  faults: [],
  liking: null,
  sell: null,
  free: '',
};

/** The full card in the order of the senses; kept while it is filled in, since a tasting takes its time. */
export function FullCard({
  cardKey,
  save,
  onSaved,
}: {
  /** What it is about, so that what was typed is found again. */
  cardKey: string;
  save: SaveCard;
  onSaved: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const [kept, setKept, forget] = useKept<Card>(`tasting.${cardKey}`);
  const card = kept ?? BLANK;
  const { gloss, sound, smell, strokes, basics, texture, faults, liking, sell, free } = card;
  const change = (part: Partial<Card>) => setKept((now) => ({ ...(now ?? BLANK), ...part }));
  const fits: readonly Fit[] = ['too little', 'right', 'too much'];
  return (
    <div className="grid gap-2">
      <p className="text-[12.5px] text-ink-3">{t('taste.advice')}</p>
      <div className="grid gap-2 lg:grid-cols-2">
        <Panel title={t('taste.look')}>
          <ScoreRow
            name={t('taste.gloss')}
            low={t('gloss.dull')}
            high={t('score.mirror')}
            value={gloss}
            onChange={(next) => change({ gloss: next })}
          />
          <ScoreRow
            name={t('taste.snap')}
            low={t('score.soft')}
            high={t('score.crisp')}
            value={sound}
            onChange={(next) => change({ sound: next })}
          />
        </Panel>
        <Panel title={t('taste.smell')}>
          <TextArea
            label={t('taste.smell.words')}
            value={smell}
            onChange={(e) => change({ smell: e.target.value })}
            maxLength={400}
            rows={5}
          />
        </Panel>
      </div>
      <Notes strokes={strokes} onStrokes={(next) => change({ strokes: next })} />
      <div className="grid gap-2 lg:grid-cols-2">
        <Panel title={t('taste.basics')}>
          {BASICS.map((b) => (
            <div key={b} className="mb-2 border-b border-line pb-2">
              <ScoreRow
                name={t(`basic.${b}`)}
                low={t('score.none')}
                high={t('score.very')}
                value={basics[b]?.strength ?? null}
                onChange={(strength) =>
                  change({ basics: { ...basics, [b]: { strength, fit: basics[b]?.fit ?? 'right' } } })
                }
              />
              <Choice
                label={t('taste.fit', { basic: t(`basic.${b}`) })}
                value={basics[b]?.fit ?? null}
                options={fits.map((f) => ({ value: f, label: t(`fit.${f}`) }))}
                onChange={(fit) =>
                  change({ basics: { ...basics, [b]: { strength: basics[b]?.strength ?? 5, fit } } })
                }
              />
            </div>
          ))}
        </Panel>
        <Panel title={t('taste.texture')}>
          {TEXTURES.map((x) => (
            <ScoreRow
              key={x}
              name={t(`texture.${x}`)}
              low={t('score.none')}
              high={t('score.very')}
              value={texture[x] ?? null}
              onChange={(v) => change({ texture: { ...texture, [x]: v } })}
            />
          ))}
          <h3 className="mb-1 mt-3 text-[14px]">{t('taste.faults')}</h3>
          <div className="flex flex-wrap gap-2">
            {FAULTS.map((f) => (
              <button
                key={f}
                type="button"
                aria-pressed={faults.includes(f)}
                onClick={() =>
                  change({ faults: faults.includes(f) ? faults.filter((x) => x !== f) : [...faults, f] })
                }
                className={`min-h-11 rounded border px-3 font-semibold ${faults.includes(f) ? 'border-bad bg-bad-tint text-bad' : 'border-edge bg-panel'}`}
              >
                {t(`fault.${f}`)}
              </button>
            ))}
          </div>
        </Panel>
      </div>
      <Panel title={t('liking')}>
        <ScoreRow
          name={t('liking')}
          low={t('score.not')}
          high={t('score.love')}
          value={liking}
          onChange={(next) => change({ liking: next })}
        />
        <div className="mb-3">
          <Choice
            label={t('taste.sell')}
            value={sell}
            options={[
              { value: 'yes', label: t('taste.sell.yes') },
              { value: 'no', label: t('taste.sell.no') },
            ]}
            onChange={(next) => change({ sell: next })}
          />
        </div>
        <TextArea
          label={t('taste.words')}
          value={free}
          onChange={(e) => change({ free: e.target.value })}
          maxLength={2000}
        />
        <SaveCardButton
          open={liking === null ? [t('liking')] : []}
          onSave={() =>
            void save({
              form: 'full',
              look: { swatch: null, gloss, faults: [] },
              snap: { sound, edge: null },
              smell,
              strip: strokes,
              basics,
              texture,
              faults,
              liking: liking!,
              wouldSell: sell === null ? null : sell === 'yes',
              words: free,
            }).then(
              () => {
                forget();
                onSaved();
              },
              () => undefined,
            )
          }
        >
          {kept && (
            <Button look="quiet" onClick={forget}>
              {t('kept.discard')}
            </Button>
          )}
        </SaveCardButton>
      </Panel>
    </div>
  );
}
