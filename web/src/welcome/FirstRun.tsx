import { Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { mutate } from 'swr';
import { USUAL_BAR_MG, USUAL_LABOUR_RATE, USUAL_PACKAGING, type Shape } from '@wunsch/contract';
import { habitsOfRegion, roundMass, usualMoney } from '@wunsch/core/quantity';
import { request } from '../shell/api.ts';
import { newId } from '../shell/entry.ts';
import { Wordmark } from '../shell/glyphs.tsx';
import { Button } from '../ui/Button.tsx';
import { CurrencyField } from '../ui/CurrencyField.tsx';
import { Choice, SelectField, TextField } from '../ui/Field.tsx';
import { hasKeyboard } from '../ui/hasKeyboard.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useWords, type Language } from '../words/words.tsx';
import { MachinesQuestion, type MachineDraft } from './MachinesQuestion.tsx';
import { PutBack } from './PutBack.tsx';
import { machinesOf } from './shapes.ts';

const initialsOf = (name: string) =>
  name
    .trim()
    .split(/\s+/)
    .map((w) => w[0] ?? '')
    .join('')
    .slice(0, 3)
    .toUpperCase() || '?';

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
  const [page, setPage] = useState(0);
  const question = useRef<HTMLElement>(null);
  const shown = useRef(page);
  // The button that led here may be gone: the next thing to fill in has the focus, or else the question.
  useEffect(() => {
    if (shown.current === page) return;
    shown.current = page;
    const field = hasKeyboard() && question.current?.querySelector<HTMLElement>('form input');
    (field || question.current?.querySelector<HTMLElement>('h2'))?.focus();
  }, [page]);
  const [shape, setShape] = useState<Shape>('kitchen');
  const [name, setName] = useState('');
  // As where the browser is from; a language without a region says nothing of that.
  const [usual] = useState(() => habitsOfRegion(new Intl.Locale(navigator.language).region ?? ''));
  const [currency, setCurrency] = useState(usual.currency ?? (words.language === 'de' ? 'EUR' : 'GBP'));
  const [temperatureUnit, setTemperatureUnit] = useState(usual.temperatureUnit);
  const [massSystem, setMassSystem] = useState<'metric' | 'pounds'>('metric');
  const [machines, setMachines] = useState<MachineDraft[] | null>(null);
  const [people, setPeople] = useState<
    { id: string; name: string; role: 'maker' | 'taster' | 'viewer'; password: string }[]
  >([]);
  const [owner, setOwner] = useState({ name: '', password: '' });
  const [code, setCode] = useState('');
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const drafts =
    machines ??
    machinesOf(shape, massSystem).map((m) => ({ ...m, id: newId(), name: t(`machine.${m.name}`) }));
  const finish = async () => {
    setBusy(true);
    setError(null);
    try {
      await request('POST', '/api/first-run', {
        ...(needsCode && { code }),
        workshop: {
          name: name.trim(),
          shape,
          currency,
          temperatureUnit,
          massSystem,
          // In pounds a bar begins at two ounces.
          ...(massSystem === 'pounds' && { barMg: roundMass(USUAL_BAR_MG, massSystem) }),
          labourRate: usualMoney(USUAL_LABOUR_RATE, currency),
          packagingPerBar: usualMoney(USUAL_PACKAGING, currency),
          language: words.language,
        },
        owner: {
          id: newId(),
          name: owner.name.trim(),
          initials: initialsOf(owner.name),
          password: owner.password,
        },
        people: people
          .filter((p) => p.name.trim())
          .map((p) => ({
            id: p.id,
            name: p.name.trim(),
            initials: initialsOf(p.name),
            role: p.role,
            ...(p.password && { password: p.password }),
          })),
        machines: drafts
          .filter((m) => m.name.trim())
          .map(({ id, name: machine, station, kind, minMg, maxMg }) => ({
            id,
            name: machine.trim(),
            station,
            kind,
            minMg,
            maxMg,
          })),
      });
      await request('POST', '/api/session', { name: owner.name.trim(), password: owner.password });
      await mutate('/api/session');
    } catch (failure) {
      setError(words.explain(failure));
      setBusy(false);
    }
  };
  const ready = [
    true,
    name.trim() !== '',
    true,
    true,
    owner.name.trim() !== '' && owner.password.length >= 8 && (!needsCode || code.trim() !== ''),
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
        onChange={(s) => {
          setShape(s);
          setMachines(null);
        }}
      />
    </div>,
    <div key="name" className="grid gap-4">
      <TextField
        label={t('first.name')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        maxLength={120}
        required
      />
      <CurrencyField label={t('first.currency')} value={currency} onChange={setCurrency} />
      <Choice
        label={t('first.temperature')}
        value={temperatureUnit}
        options={[
          { value: '°C', label: '°C' },
          { value: '°F', label: '°F' },
        ]}
        onChange={setTemperatureUnit}
      />
      <Choice
        label={t('first.mass')}
        value={massSystem}
        options={[
          { value: 'metric', label: t('first.metric') },
          { value: 'pounds', label: t('first.pounds') },
        ]}
        onChange={setMassSystem}
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
      machines={drafts}
      unit={massSystem === 'pounds' ? 'lb' : 'kg'}
      onChange={setMachines}
    />,
    <div key="people" className="grid gap-2">
      {people.map((p) => (
        <div
          key={p.id}
          className="grid grid-cols-2 items-end gap-2 rounded border border-line p-2 sm:grid-cols-[1.4fr_1fr_1.2fr_44px]"
        >
          <TextField
            label={t('name')}
            value={p.name}
            onChange={(e) =>
              setPeople(people.map((x) => (x.id === p.id ? { ...x, name: e.target.value } : x)))
            }
            maxLength={120}
          />
          <SelectField
            label={t('role')}
            value={p.role}
            onChange={(e) =>
              setPeople(people.map((x) => (x.id === p.id ? { ...x, role: e.target.value as 'maker' } : x)))
            }
          >
            {(['maker', 'taster', 'viewer'] as const).map((r) => (
              <option key={r} value={r}>
                {t(`role.${r}`)}
              </option>
            ))}
          </SelectField>
          <TextField
            label={t('password')}
            type="password"
            autoComplete="new-password"
            value={p.password}
            minLength={8}
            onChange={(e) =>
              setPeople(people.map((x) => (x.id === p.id ? { ...x, password: e.target.value } : x)))
            }
            error={p.password && p.password.length < 8 ? t('password.short') : null}
          />
          <RemoveButton
            label={t('person.remove', { name: p.name })}
            onRemove={() => setPeople(people.filter((x) => x.id !== p.id))}
          />
        </div>
      ))}
      <Button
        icon={<Plus size={16} aria-hidden="true" />}
        onClick={() => setPeople([...people, { id: newId(), name: '', role: 'maker', password: '' }])}
      >
        {t('person.add')}
      </Button>
    </div>,
    <div key="owner" className="grid gap-3">
      <TextField
        label={t('first.you')}
        value={owner.name}
        onChange={(e) => setOwner({ ...owner, name: e.target.value })}
        autoComplete="username"
        maxLength={120}
        required
      />
      <TextField
        label={t('password')}
        type="password"
        value={owner.password}
        onChange={(e) => setOwner({ ...owner, password: e.target.value })}
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
