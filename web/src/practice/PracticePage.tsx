import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { LESSONS, type LessonName, type Practice, type SkillsView } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

const LEVELS = ['1', '2', '3'] as const;

/** How fast the clock may go: a mill runs for days. */
const SPEEDS: Readonly<Record<LessonName, readonly string[]>> = {
  roast: ['5', '20', '60'],
  winnow: ['1', '5', '20'],
  grind: ['600', '1800', '3600'],
  temper: ['5', '20', '60'],
};

/** Where one begins to practise: the same screens over a simulated oven or bowl, on a fast clock, and nothing of it is kept but the score. */
export default function PracticePage() {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const navigate = useNavigate();
  const me = useSession().person;
  const { data: skills } = useRead<SkillsView>('/api/skills');
  const [lesson, setLesson] = useState<LessonName>('roast');
  const [level, setLevel] = useState<(typeof LEVELS)[number]>('1');
  const [speed, setSpeed] = useState('20');
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const best = (of: LessonName, at: string) =>
    skills?.practised.find((p) => p.personId === me.id && p.lesson === of && String(p.level) === at);
  const begin = async () => {
    setBusy(true);
    setError(null);
    try {
      const begun = await request<Practice>('POST', '/api/practices', {
        lesson,
        level: Number(level),
        speed: Number(speed),
        language: words.language,
      });
      await navigate(`/practice/${begun.id}${begun.path}`);
    } catch (failure) {
      setError(words.explain(failure));
      setBusy(false);
    }
  };
  return (
    <div className="mx-auto max-w-4xl p-3 sm:px-4">
      <h1 className="mb-3 text-[26px]">{t('practice')}</h1>
      <Panel>
        <p className="mb-4 max-w-prose">{t('practice.text')}</p>
        <div className="grid gap-4">
          <Group title={t('practice.what')}>
            <Choice
              label={t('practice.what')}
              value={lesson}
              options={LESSONS.map((l) => ({
                value: l,
                label: t(`practice.${l}`),
                note: t(`practice.${l}.note`),
              }))}
              onChange={(next) => {
                setLesson(next);
                if (!SPEEDS[next].includes(speed)) setSpeed(SPEEDS[next][1]!);
              }}
            />
          </Group>
          <p className="max-w-prose text-[13.5px] text-ink-2">{t(`practice.${lesson}.text`)}</p>
          <Group title={t('practice.level')}>
            <Choice
              label={t('practice.level')}
              value={level}
              options={LEVELS.map((l) => {
                const had = best(lesson, l);
                return {
                  value: l,
                  label: t(`practice.level.${l}`),
                  note: had
                    ? t('practice.best', { points: had.points, n: had.times })
                    : t('practice.not-yet'),
                };
              })}
              onChange={setLevel}
            />
          </Group>
          <p className="max-w-prose text-[13.5px] text-ink-2">{t(`practice.level.${level}.text`)}</p>
          <Group title={t('practice.speed')}>
            <Choice
              label={t('practice.speed')}
              value={speed}
              options={SPEEDS[lesson].map((s) => ({ value: s, label: t('practice.times', { n: s }) }))}
              onChange={setSpeed}
            />
          </Group>
        </div>
        {error && (
          <p role="alert" className="mt-3 text-bad">
            {error}
          </p>
        )}
        <ul className="mt-4">
          {(['palate', 'cards'] as const).map((other) => (
            <li key={other}>
              <Link
                to={`/practice/${other}`}
                className="inline-flex min-h-11 items-center underline underline-offset-4"
              >
                {t(`${other}.link`)}
              </Link>
            </li>
          ))}
        </ul>
        <Button look="main" big className="mt-3" disabled={busy} onClick={() => void begin()}>
          {t(busy ? 'practice.opening' : `practice.begin.${lesson}`)}
        </Button>
      </Panel>
    </div>
  );
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div>
      <h2 className="mb-1 text-[13px] font-normal text-ink-3">{title}</h2>
      {children}
    </div>
  );
}
