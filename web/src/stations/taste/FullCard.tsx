import { useState } from 'react';
import type { BatchView } from '@wunsch/contract';
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
import { useWords } from '../../words/words.tsx';
import { ScoreRow } from './ScoreRow.tsx';
import { Notes } from './Notes.tsx';
import { useSave } from './useSave.ts';

/** The full card in the order of the senses. */
export function FullCard({ view, onSaved }: { view: BatchView; onSaved: () => void }) {
  const words = useWords();
  const { t } = words;
  const save = useSave(view);
  const [gloss, setGloss] = useState<number | null>(null);
  const [sound, setSound] = useState<number | null>(null);
  const [smell, setSmell] = useState('');
  const [strokes, setStrokes] = useState<Stroke[]>([]);
  const [basics, setBasics] = useState<Partial<Record<Basic, { strength: number; fit: Fit }>>>({});
  const [texture, setTexture] = useState<Partial<Record<Texture, number>>>({});
  const [faults, setFaults] = useState<Fault[]>([]);
  const [liking, setLiking] = useState<number | null>(null);
  const [sell, setSell] = useState<'yes' | 'no' | null>(null);
  const [free, setFree] = useState('');
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
            onChange={setGloss}
          />
          <ScoreRow
            name={t('taste.snap')}
            low={t('score.soft')}
            high={t('score.crisp')}
            value={sound}
            onChange={setSound}
          />
        </Panel>
        <Panel title={t('taste.smell')}>
          <TextArea
            label={t('taste.smell.words')}
            value={smell}
            onChange={(e) => setSmell(e.target.value)}
            maxLength={400}
            rows={5}
          />
        </Panel>
      </div>
      <Notes strokes={strokes} onStrokes={setStrokes} />
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
                  setBasics({ ...basics, [b]: { strength, fit: basics[b]?.fit ?? 'right' } })
                }
              />
              <Choice
                label={t('taste.fit', { basic: t(`basic.${b}`) })}
                value={basics[b]?.fit ?? null}
                options={fits.map((f) => ({ value: f, label: t(`fit.${f}`) }))}
                onChange={(fit) => setBasics({ ...basics, [b]: { strength: basics[b]?.strength ?? 5, fit } })}
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
              onChange={(v) => setTexture({ ...texture, [x]: v })}
            />
          ))}
          <h3 className="mb-1 mt-3 text-[14px]">{t('taste.faults')}</h3>
          <div className="flex flex-wrap gap-2">
            {FAULTS.map((f) => (
              <button
                key={f}
                type="button"
                aria-pressed={faults.includes(f)}
                onClick={() => setFaults(faults.includes(f) ? faults.filter((x) => x !== f) : [...faults, f])}
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
          onChange={setLiking}
        />
        <div className="mb-3">
          <Choice
            label={t('taste.sell')}
            value={sell}
            options={[
              { value: 'yes', label: t('taste.sell.yes') },
              { value: 'no', label: t('taste.sell.no') },
            ]}
            onChange={setSell}
          />
        </div>
        <TextArea
          label={t('taste.words')}
          value={free}
          onChange={(e) => setFree(e.target.value)}
          maxLength={2000}
        />
        <Button
          look="main"
          big
          className="mt-3"
          disabled={liking === null}
          onClick={() =>
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
            }).then(onSaved, () => undefined)
          }
        >
          {t('taste.save')}
        </Button>
      </Panel>
    </div>
  );
}
