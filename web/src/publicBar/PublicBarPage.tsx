import { lazy, Suspense, useMemo, useState, type ReactNode } from 'react';
import type { PublicBar } from '@wunsch/contract';
import type { Sign } from '@wunsch/core/faults';
import { lotWords } from '@wunsch/core/beans';
import { SignChoice } from '../cases/SignChoice.tsx';
import { ApiProblem, request } from '../shell/api.ts';
import { newId } from '../shell/entry.ts';
import { STAGE, Wordmark } from '../shell/glyphs.tsx';
import { base64Of, smallerPhoto } from '../shell/photo.ts';
import { plainText } from '../shell/plainText.ts';
import { useFetched } from '../shell/useFetched.ts';
import { MAP_SIZE } from '../stations/beans/mapSize.ts';
import { Button } from '../ui/Button.tsx';
import { TextArea, TextField } from '../ui/Field.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { useWords, type Language } from '../words/words.tsx';

const PointsMap = lazy(() =>
  import('../stations/beans/PlotsMap.tsx').then((m) => ({ default: m.PointsMap })),
);

/** Grit below which a tongue finds nothing, and above which it is rustic, µm. */
const FINE_UM = 22;
const RUSTIC_UM = 35;

/** Roast doses between which a roast is called gentle, min at 120 °C. */
const LIGHT = 9;
const DARK = 16;

/** Longest side and size of a photograph that is sent, px and bytes. */
const PHOTO_SIDE = 1400;
const PHOTO_BYTES = 1_500_000;

/** Signs somebody with a bar can meet; what happens in a bowl is none of them. */
const AT_HOME: readonly Sign[] = [
  'streaks',
  'bloom',
  'soft',
  'cracks',
  'gritty',
  'pasty',
  'sour',
  'flat',
  'bitter',
  'smoky',
  'webbing',
];

type Runs = PublicBar['label']['ingredients'];

const Text = ({ runs }: { runs: Runs }) => (
  <>{runs.map((r, i) => (r.bold ? <b key={i}>{r.text}</b> : <span key={i}>{r.text}</span>))}</>
);

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t border-line py-4">
      <h2 className="mb-1 text-[18px]">{title}</h2>
      <div className="text-[15px]">{children}</div>
    </section>
  );
}

/** Whole grams left behind at a station: where nothing was added what the whole grams before and after it say. */
function leftBehind(ribbon: NonNullable<PublicBar['ribbon']>, k: number): number {
  const { grams, lost } = ribbon[k]!;
  const before = k === 0 ? 100 : ribbon[k - 1]!.grams;
  const isAlone = Math.abs(before - grams - lost) < 0.2;
  return isAlone ? Math.max(0, Math.round(before) - Math.round(grams)) : Math.round(lost);
}

/** What became of 100 g of beans: a band that grows narrower with what is left behind, and wider with what is added. */
function BarRibbon({ ribbon }: { ribbon: NonNullable<PublicBar['ribbon']> }) {
  const words = useWords();
  const { t } = words;
  const width = 640;
  const most = Math.max(100, ...ribbon.map((r) => r.grams));
  const column = width / (ribbon.length + 1);
  const px = 110 / most;
  const middle = 68;
  const edge = (grams: number, side: 1 | -1) => middle + (side * grams * px) / 2;
  return (
    <>
      <svg viewBox={`0 0 ${width} 136`} className="w-full" role="img" aria-label={t('bar.ribbon')}>
        <rect x="0" y={edge(100, -1)} width={column} height={100 * px} fill="var(--stage-beans)" />
        {ribbon.map((r, k) => {
          const before = k === 0 ? 100 : ribbon[k - 1]!.grams;
          const x = column * (k + 1);
          const bend = column * 0.4;
          return (
            <g key={r.station}>
              <path
                d={`M${x} ${edge(before, -1)} C${x + bend / 2} ${edge(before, -1)} ${x + bend / 2} ${edge(r.grams, -1)} ${x + bend} ${edge(r.grams, -1)} H${x + column} V${edge(r.grams, 1)} H${x + bend} C${x + bend / 2} ${edge(r.grams, 1)} ${x + bend / 2} ${edge(before, 1)} ${x} ${edge(before, 1)} Z`}
                fill={STAGE[r.station].fill}
                stroke="var(--stage-edge)"
              />
            </g>
          );
        })}
      </svg>
      <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-1 text-[13.5px]">
        {ribbon.map((r, k) => (
          <li key={r.station} className="flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className="size-3 rounded-[2px] border border-line-2"
              style={{ background: STAGE[r.station].fill }}
            />
            {t('bar.ribbon.row', {
              grams: `${words.number(r.grams, 0)} g`,
              station: t(`station.${r.station}`),
            })}
            {leftBehind(ribbon, k) > 0 && (
              <span className="text-ink-3">
                ({t('bar.ribbon.lost', { grams: `${words.number(leftBehind(ribbon, k), 0)} g` })})
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

/** Telling the maker that something is wrong. */
function Wrong({ code }: { code: string }) {
  const { t, explain } = useWords();
  const [open, setOpen] = useState(false);
  const [sent, setSent] = useState(false);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const [signs, setSigns] = useState<Sign[]>([]);
  const [told, setTold] = useState({ text: '', kept: '', name: '', contact: '' });
  const [photo, setPhoto] = useState<{ name: string; type: string; content: string } | null>(null);
  const id = useMemo(() => newId(), []);
  const change = (more: Partial<typeof told>) => setTold({ ...told, ...more });
  const take = async (file: File) => {
    setError(null);
    try {
      const blob = await smallerPhoto(file, PHOTO_SIDE);
      if (blob.size > PHOTO_BYTES || !/^image\/(jpeg|png|webp)$/.test(blob.type)) throw new Error();
      setPhoto({ name: file.name || 'photo.jpg', type: blob.type, content: await base64Of(blob) });
    } catch {
      setError(t('bar.wrong.photo.large'));
    }
  };
  const send = () => {
    setBusy(true);
    setError(null);
    request('POST', `/api/bar/${encodeURIComponent(code)}/report`, { id, ...told, signs, photo })
      .then(() => setSent(true))
      .catch((failure: unknown) => setError(explain(failure)))
      .finally(() => setBusy(false));
  };
  if (sent)
    return (
      <p role="status" className="border-t border-line py-4 text-[16px] font-semibold">
        {t('bar.wrong.sent')}
      </p>
    );
  if (!open)
    return (
      <div className="border-t border-line py-4">
        <Button onClick={() => setOpen(true)}>{t('bar.wrong')}</Button>
      </div>
    );
  return (
    <Section title={t('bar.wrong')}>
      <p className="mb-3 text-[14px] text-ink-2">{t('bar.wrong.text')}</p>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
      >
        <SignChoice label={t('bar.wrong.what')} chosen={signs} onChoose={setSigns} among={AT_HOME} />
        <TextArea
          label={t('bar.wrong.words')}
          value={told.text}
          onChange={(e) => change({ text: e.target.value })}
          maxLength={2000}
          required
        />
        <TextField
          label={t('bar.wrong.kept')}
          value={told.kept}
          onChange={(e) => change({ kept: e.target.value })}
          maxLength={600}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField
            label={t('bar.wrong.name')}
            value={told.name}
            onChange={(e) => change({ name: e.target.value })}
            maxLength={120}
          />
          <TextField
            label={t('bar.wrong.contact')}
            value={told.contact}
            onChange={(e) => change({ contact: e.target.value })}
            maxLength={200}
          />
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <FileButton
            label={t('bar.wrong.photo')}
            accept="image/jpeg,image/png,image/webp"
            onFile={(file) => void take(file)}
          />
          {photo && <span className="text-[14px]">{t('bar.wrong.photo.is', { name: photo.name })}</span>}
        </div>
        {error && (
          <p role="alert" className="text-bad">
            {error}
          </p>
        )}
        <Button type="submit" look="main" big disabled={busy || told.text.trim() === ''}>
          {t('bar.wrong.send')}
        </Button>
        <p className="text-[12.5px] text-ink-3">{t('bar.wrong.privacy')}</p>
      </form>
    </Section>
  );
}

function Page({ bar }: { bar: PublicBar }) {
  const words = useWords();
  const { t } = words;
  const { making, days, origin } = bar;
  const first = days?.[0];
  const last = days?.at(-1);
  const span =
    first && last ? Math.round((Date.parse(last.day) - Date.parse(first.day)) / 86_400_000) + 1 : null;
  return (
    <>
      <header className="py-5">
        <p className="text-[14px] text-ink-2">{t('bar.made-by', { name: bar.maker.name })}</p>
        <h1 className="text-[32px] leading-tight">{bar.name || bar.code}</h1>
        <p className="mt-1 text-[15px]">
          {[bar.label.cacao.map((r) => r.text).join(''), bar.netMass, bar.code].filter(Boolean).join(' · ')}
        </p>
        {bar.words && <p className="mt-3 whitespace-pre-line text-[16px]">{bar.words}</p>}
      </header>
      {(origin || bar.growers || bar.map) && (
        <Section title={t('bar.origin')}>
          {origin?.map((o) => (
            <p key={o.name}>
              {[...new Set([o.name, o.region, o.country, ...lotWords(o.name, o.harvest)])]
                .filter(Boolean)
                .join(', ')}
            </p>
          ))}
          {bar.growers && bar.growers.length > 0 && (
            <p>{t('bar.grower', { names: bar.growers.join(', ') })}</p>
          )}
          {bar.map && bar.map.length > 0 && (
            <Suspense fallback={<div style={{ aspectRatio: MAP_SIZE.width / MAP_SIZE.height }} />}>
              <PointsMap points={bar.map} label={t('bar.map')} />
            </Suspense>
          )}
        </Section>
      )}
      {(span !== null || making || bar.people?.length || bar.ribbon) && (
        <Section title={t('bar.making')}>
          {span !== null && (
            <p>{t('bar.days', { from: words.day(first!.day), to: words.day(last!.day), n: span })}</p>
          )}
          {making && making.doseMinutes !== null && (
            <p>
              {t('bar.dose', {
                word: t(
                  making.doseMinutes < LIGHT
                    ? 'bar.dose.light'
                    : making.doseMinutes <= DARK
                      ? 'bar.dose.medium'
                      : 'bar.dose.dark',
                ),
                minutes: words.duration(Math.max(60, Math.round(making.doseMinutes) * 60)),
              })}
            </p>
          )}
          {making && making.gritUm !== null && (
            <p>
              {t('bar.grit', {
                um: `${words.number(making.gritUm, 0)} µm`,
                word: t(
                  making.gritUm <= FINE_UM
                    ? 'bar.grit.fine'
                    : making.gritUm <= RUSTIC_UM
                      ? 'bar.grit.some'
                      : 'bar.grit.rustic',
                ),
              })}
            </p>
          )}
          {bar.people && bar.people.length > 0 && <p>{t('bar.people', { names: bar.people.join(', ') })}</p>}
          {bar.ribbon && bar.ribbon.length > 0 && (
            <div className="mt-3">
              <h3 className="mb-1 text-[14px] font-semibold text-ink-2">{t('bar.ribbon')}</h3>
              <BarRibbon ribbon={bar.ribbon} />
            </div>
          )}
        </Section>
      )}
      <Section title={t('bar.ingredients')}>
        <p>
          <Text runs={bar.label.ingredients} />
        </p>
        {bar.label.traces.length > 0 && (
          <p className="mt-1">
            <Text runs={bar.label.traces} />
          </p>
        )}
      </Section>
      <Section title={t('bar.keeping')}>
        <p>
          <Text runs={bar.label.storage} />
        </p>
        {bar.bestBefore && <p>{t('bar.best-before', { day: words.day(bar.bestBefore) })}</p>}
      </Section>
      <Wrong code={bar.code} />
      <footer className="border-t border-line py-4 text-[13px] text-ink-3">
        {[bar.maker.name, bar.maker.address].filter(Boolean).join(', ')}
      </footer>
    </>
  );
}

/** What the code on a bar opens for anyone: what its maker has chosen to show, and a way to say that something is wrong. */
export default function PublicBarPage({ onLanguage }: { onLanguage: (language: Language) => void }) {
  const { t, language } = useWords();
  const code = plainText(/^\/bar\/([^/?#]+)/.exec(location.pathname)?.[1] ?? '');
  const { data, error, isValidating, mutate } = useFetched<PublicBar>(
    `/api/bar/${encodeURIComponent(code)}?language=${language}`,
    (path: string) => request<PublicBar>('GET', path),
    { shouldRetryOnError: false, revalidateOnFocus: false, keepPreviousData: true },
  );
  const problem = error instanceof ApiProblem ? error.problem.code : null;
  // Whoever stands in a shop without a net is not told that there is no such bar.
  const isMissing = error instanceof ApiProblem && error.problem.status === 404;
  return (
    <main className="mx-auto min-h-dvh max-w-2xl px-4">
      <div className="flex items-center justify-between pt-3">
        <Wordmark size={22} />
        <Button
          look="quiet"
          lang={language === 'de' ? 'en' : 'de'}
          onClick={() => onLanguage(language === 'de' ? 'en' : 'de')}
        >
          {language === 'de' ? 'English' : 'Deutsch'}
        </Button>
      </div>
      {data ? (
        <Page bar={data} />
      ) : error ? (
        <div className="py-8">
          <h1 className="text-[26px]">{t(isMissing ? 'bar.missing' : 'bar.not-read')}</h1>
          <p role="alert" className="my-2 text-[15px]">
            {t(
              isMissing
                ? 'bar.missing.text'
                : problem === 'too-many-tries'
                  ? 'bar.too-many'
                  : 'bar.not-read.text',
            )}
          </p>
          {!isMissing && (
            <Button disabled={isValidating} onClick={() => void mutate()}>
              {t('bar.again')}
            </Button>
          )}
        </div>
      ) : (
        <p className="py-8 text-ink-3">{t('loading')}</p>
      )}
    </main>
  );
}
