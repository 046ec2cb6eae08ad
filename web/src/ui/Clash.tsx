import { useState } from 'react';
import { useWords } from '../words/words.tsx';
import { Button } from './Button.tsx';

/** A field that two people changed: its name, and both values as they read. */
export interface ClashField {
  key: string;
  name: string;
  mine: string;
  theirs: string;
}

/** Two values for the same field, side by side, and a choice for each; nothing is lost until somebody has chosen. */
export function Clash({
  fields,
  onChoose,
}: {
  fields: readonly ClashField[];
  /** Keys whose value is to be mine; the others stay theirs. */
  onChoose: (mine: string[]) => void;
}) {
  const { t } = useWords();
  const [mine, setMine] = useState<readonly string[]>([]);
  return (
    <div role="alert" className="rounded border border-bad bg-bad-tint p-3">
      <p className="font-semibold text-bad">▲ {t('clash')}</p>
      <ul className="my-2 grid gap-2">
        {fields.map((f) => (
          <li key={f.key} className="rounded bg-panel p-2">
            <fieldset>
              <legend className="text-[12.5px] font-semibold">{f.name}</legend>
              {(['theirs', 'mine'] as const).map((who) => (
                <label key={who} className="flex min-h-11 items-center gap-3">
                  <input
                    type="radio"
                    name={f.key}
                    checked={mine.includes(f.key) === (who === 'mine')}
                    onChange={() =>
                      setMine(who === 'mine' ? [...mine, f.key] : mine.filter((k) => k !== f.key))
                    }
                    className="size-5 accent-(--violet-text)"
                  />
                  <span className="text-ink-3">{t(`clash.${who}`)}</span>
                  <span className="min-w-0 break-words">{f[who] || '—'}</span>
                </label>
              ))}
            </fieldset>
          </li>
        ))}
      </ul>
      <Button look="main" onClick={() => onChoose([...mine])}>
        {t('clash.keep')}
      </Button>
    </div>
  );
}
