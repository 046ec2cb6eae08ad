import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Practice } from '@wunsch/contract';
import { useDoor } from '../shell/door.tsx';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import type { PracticeState } from './PracticeRoom.tsx';

const SPEEDS = ['5', '20', '60'] as const;

/** Where one begins to practise: the same screens over a simulated oven, on a fast clock, and nothing of it is kept. */
export default function PracticePage() {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const navigate = useNavigate();
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]>('20');
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const begin = async () => {
    setBusy(true);
    setError(null);
    try {
      const begun = await request<Practice>('POST', '/api/practices', { speed: Number(speed) });
      const state: PracticeState = { ...begun, saidAt: Date.now() };
      await navigate(`/practice/${begun.id}${begun.path}`, { state });
    } catch (failure) {
      setError(words.explain(failure));
      setBusy(false);
    }
  };
  return (
    <div className="p-3 sm:px-4">
      <h1 className="mb-3 text-[26px]">{t('practice')}</h1>
      <Panel title={t('practice.roast')}>
        <p className="mb-4 max-w-prose">{t('practice.roast.text')}</p>
        <Choice
          label={t('practice.speed')}
          value={speed}
          options={SPEEDS.map((s) => ({ value: s, label: t('practice.times', { n: s }) }))}
          onChange={setSpeed}
        />
        {error && (
          <p role="alert" className="mt-3 text-bad">
            {error}
          </p>
        )}
        <Button look="main" big className="mt-4" disabled={busy} onClick={() => void begin()}>
          {t(busy ? 'practice.opening' : 'practice.begin')}
        </Button>
      </Panel>
    </div>
  );
}
