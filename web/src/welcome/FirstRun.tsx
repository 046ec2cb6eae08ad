import { useEffect, useRef, useState } from 'react';
import { mutate } from 'swr';
import { SHORTEST_PASSWORD } from '@wunsch/contract';
import { habitsOfRegion } from '@wunsch/core/quantity';
import { request } from '../shell/api.ts';
import { Wordmark } from '../shell/glyphs.tsx';
import { useKept } from '../shell/useKept.ts';
import { Button } from '../ui/Button.tsx';
import { CurrencyField } from '../ui/CurrencyField.tsx';
import { Choice, TextField } from '../ui/Field.tsx';
import { hasKeyboard } from '../ui/hasKeyboard.ts';
import { useWords, type Language } from '../words/words.tsx';
import { firstAnswers, firstRunOf, suggestedMachines, type Answers } from './answers.ts';
import { MachinesQuestion } from './MachinesQuestion.tsx';
import { PeopleQuestion } from './PeopleQuestion.tsx';
import { PutBack } from './PutBack.tsx';

/** Five questions that make a usable workshop: shape, name and units, machines, people, and the owner's password. */
export default function FirstRun({
  needsCode = false,
  onLanguage,
}: {
  /** Whether the code printed where the server runs is asked for. */
  needsCode?: boolean;
  onLanguage: (language: Language) => void;
}) {
  const words = useWords();
  const { t } = words;
  const [usual] = useState(() => habitsOfRegion(new Intl.Locale(navigator.language).region ?? ''));
  const [kept, keep, forget] = useKept<Answers>('first-run');
  const answers = kept ?? firstAnswers(usual, words);
  const { page, shape, massSystem } = answers;
  const change = (part: Partial<Answers>) => keep({ ...answers, ...part });
  const setPage = (to: number) => change({ page: to });
  // A password is kept nowhere but in the page it was typed on.
  const [passwords, setPasswords] = useState<{ owner: string; people: Record<string, string> }>({
    owner: '',
    people: {},
  });
  const question = useRef<HTMLElement>(null);
  const shown = useRef(page);
  // The button that led here may be gone: the next thing to fill in has the focus, or else the question.
  useEffect(() => {
    if (shown.current === page) return;
    shown.current = page;
    const field = hasKeyboard() && question.current?.querySelector<HTMLElement>('form input');
    (field || question.current?.querySelector<HTMLElement>('h2'))?.focus();
  }, [page]);
  const [code, setCode] = useState('');
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const machines = answers.machines ?? suggestedMachines(answers, words);
  const lacksPassword = answers.people.some(
    (p) => p.name.trim() && p.hasPassword && (passwords.people[p.id] ?? '').length < SHORTEST_PASSWORD,
  );
  const finish = async () => {
    setBusy(true);
    setError(null);
    try {
      await request('POST', '/api/first-run', {
        ...(needsCode && { code }),
        ...firstRunOf(answers, machines, passwords, words),
      });
      await request('POST', '/api/session', { name: answers.owner.trim(), password: passwords.owner });
      await mutate('/api/session');
      forget();
    } catch (failure) {
      setError(words.explain(failure));
      setBusy(false);
    }
  };
  const ready = [
    true,
    answers.name.trim() !== '',
    true,
    !lacksPassword,
    answers.owner.trim() !== '' &&
      passwords.owner.length >= SHORTEST_PASSWORD &&
      !lacksPassword &&
      (!needsCode || code.trim() !== ''),
  ];
  const pages = [
    <div key="shape" className="grid gap-3">
      <Choice
        label={t('first.shape')}
        value={shape}
        options={(['kitchen', 'shop', 'estate', 'school'] as const).map((s) => ({
          value: s,
          label: t(`shape.${s}`),
          note: t(`shape.${s}.note`),
        }))}
        onChange={(to) => change({ shape: to, machines: null })}
      />
    </div>,
    <div key="name" className="grid gap-4">
      <TextField
        label={t('first.name')}
        value={answers.name}
        onChange={(e) => change({ name: e.target.value })}
        maxLength={120}
        required
      />
      <CurrencyField
        label={t('first.currency')}
        value={answers.currency}
        onChange={(currency) => change({ currency })}
      />
      <Choice
        label={t('first.temperature')}
        value={answers.temperatureUnit}
        options={[
          { value: '°C', label: '°C' },
          { value: '°F', label: '°F' },
        ]}
        onChange={(temperatureUnit) => change({ temperatureUnit })}
      />
      <Choice
        label={t('first.mass')}
        value={massSystem}
        options={[
          { value: 'metric', label: t('first.metric') },
          { value: 'pounds', label: t('first.pounds') },
        ]}
        onChange={(to) => change({ massSystem: to })}
      />
      <Choice
        label={t('first.language')}
        value={words.language}
        options={[
          { value: 'en', label: 'English' },
          { value: 'de', label: 'Deutsch' },
        ]}
        onChange={onLanguage}
      />
    </div>,
    <MachinesQuestion
      key="machines"
      machines={machines}
      unit={massSystem === 'pounds' ? 'lb' : 'kg'}
      onChange={(to) => change({ machines: to })}
    />,
    <PeopleQuestion
      key="people"
      people={answers.people}
      passwords={passwords.people}
      onChange={(people) => change({ people })}
      onPassword={(id, password) =>
        setPasswords((all) => ({ ...all, people: { ...all.people, [id]: password } }))
      }
    />,
    <div key="owner" className="grid gap-3">
      <TextField
        label={t('first.you')}
        value={answers.owner}
        onChange={(e) => change({ owner: e.target.value })}
        autoComplete="username"
        maxLength={120}
        required
      />
      <TextField
        label={t('password')}
        type="password"
        value={passwords.owner}
        onChange={(e) => setPasswords((all) => ({ ...all, owner: e.target.value }))}
        autoComplete="new-password"
        hint={t('password.short')}
        required
      />
      {needsCode && (
        <TextField
          label={t('first.code')}
          hint={t('first.code.hint')}
          value={code}
          onChange={(e) => setCode(e.target.value)}
          autoComplete="off"
          autoCapitalize="characters"
          maxLength={40}
          required
        />
      )}
    </div>,
  ];
  const last = page === pages.length - 1;
  return (
    <main className="mx-auto grid max-w-3xl gap-4 p-4 py-8">
      <h1>
        <Wordmark size={44} />
        <span className="sr-only">{t('first.title')}</span>
      </h1>
      <p className="text-[15px] text-ink-2">{t('first.intro')}</p>
      <section ref={question} className="panel p-5">
        <p className="text-[12.5px] text-ink-3">{t('first.page', { n: page + 1, of: pages.length })}</p>
        <h2 tabIndex={-1} className="mb-4 text-[22px] outline-none">
          {t(`first.page.${page + 1}` as 'first.page.1')}
        </h2>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (!ready[page]) return;
            if (last) void finish();
            else setPage(page + 1);
          }}
        >
          {pages[page]}
          {last && lacksPassword && <p className="mt-3 text-bad">{t('first.password-lacks')}</p>}
          {error && (
            <p role="alert" className="mt-3 text-bad">
              {error}
            </p>
          )}
          <div className="mt-5 flex gap-2">
            {page > 0 && (
              <Button big onClick={() => setPage(page - 1)}>
                {t('back')}
              </Button>
            )}
            <Button type="submit" look="main" big className="grow" disabled={!ready[page] || busy}>
              {t(last ? 'first.open' : 'next')}
            </Button>
          </div>
        </form>
      </section>
      <PutBack needsCode={needsCode} />
      <p className="text-[12.5px] text-ink-3">{t('first.demo')}</p>
    </main>
  );
}
