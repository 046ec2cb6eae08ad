import { useState, type ReactNode } from 'react';
import type { ClassSeat, GuestChoice } from '@wunsch/contract';
import { ApiProblem, request } from '../shell/api.ts';
import { plainText } from '../shell/plainText.ts';
import { useFetched } from '../shell/useFetched.ts';
import { Wordmark } from '../shell/glyphs.tsx';
import { AllergenBoxes } from '../stations/AllergenBoxes.tsx';
import { Button } from '../ui/Button.tsx';
import { FaultBox } from '../ui/FaultBox.tsx';
import { TextArea, TextField } from '../ui/Field.tsx';
import { useWords, type Language } from '../words/words.tsx';
import { allergenList, atMost, liesWithGuest, shareText } from './classNames.ts';
import { TasteChoice, type Taste } from './TasteChoice.tsx';

const Frame = ({ children }: { children: ReactNode }) => (
  <main className="mx-auto grid max-w-xl gap-3 p-4">{children}</main>
);

/** A guest’s own page of a class: what they choose, and afterwards how they like it. */
export default function SeatPage({ onLanguage }: { onLanguage: (language: Language) => void }) {
  const { t, language } = useWords();
  const code = plainText(location.pathname.split('/')[2] ?? '');
  const path = `/api/class/${encodeURIComponent(code)}`;
  const { data, error, isValidating, mutate } = useFetched<ClassSeat>(
    path,
    () => request<ClassSeat>('GET', path),
    {
      revalidateOnFocus: false,
      shouldRetryOnError: false,
    },
  );
  const other = language === 'de' ? 'en' : 'de';
  const isNobody = error instanceof ApiProblem && error.problem.status === 404;
  return (
    <Frame>
      <header className="flex items-center justify-between">
        <Wordmark size={30} />
        <Button look="quiet" lang={other} onClick={() => onLanguage(other)}>
          {other === 'de' ? 'Deutsch' : 'English'}
        </Button>
      </header>
      {!data ? (
        error && !isNobody ? (
          <>
            <h1 className="text-[24px]">{t('bar.not-read')}</h1>
            <p role="alert">{t('bar.not-read.text')}</p>
            <Button disabled={isValidating} onClick={() => void mutate()}>
              {t('bar.again')}
            </Button>
          </>
        ) : error ? (
          <>
            <h1 className="text-[24px]">{t('class.seat.none')}</h1>
            <p>{t('class.seat.none.text')}</p>
          </>
        ) : (
          <p className="text-ink-3">{t('loading')}</p>
        )
      ) : (
        <Seat seat={data} path={path} onChanged={(seat) => void mutate(seat, { revalidate: false })} />
      )}
    </Frame>
  );
}

function Seat({
  seat,
  path,
  onChanged,
}: {
  seat: ClassSeat;
  path: string;
  onChanged: (seat: ClassSeat) => void;
}) {
  const words = useWords();
  const { t } = words;
  const [taste, setTaste] = useState<Taste>({ cacaoPercent: seat.cacaoPercent, flavourIds: seat.flavourIds });
  const [allergies, setAllergies] = useState<string[]>(seat.allergies);
  const [avoid, setAvoid] = useState(seat.avoid);
  const [state, setState] = useState<'busy' | 'saved' | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const save = () => {
    setState('busy');
    setWrong(null);
    const body: GuestChoice = { ...taste, allergies, avoid };
    request<ClassSeat>('PUT', `${path}/choice`, body).then(
      (next) => {
        onChanged(next);
        setState('saved');
      },
      (failure: unknown) => {
        setWrong(words.explain(failure));
        setState(null);
      },
    );
  };
  const warned = (where: ClassSeat['findings'][number]['where']) =>
    allergenList(
      seat.findings.filter((f) => f.where === where).map((f) => f.allergen),
      words,
    );
  // What is only being chosen is warned of before it is sent.
  const chosen = new Set(
    seat.flavours.filter((f) => taste.flavourIds.includes(f.ingredientId)).flatMap((f) => f.allergens),
  );
  const about = state === 'saved' ? [] : allergies.filter((a) => chosen.has(a));
  const share = (percent: number) => shareText(percent, words);
  return (
    <>
      <h1 className="text-[26px]">{t('class.seat.hello', { name: seat.name })}</h1>
      <p className="text-[15px]">
        {t('class.seat.text', { title: seat.title, workshop: seat.workshop })}, {words.day(seat.startsAt)},{' '}
        {words.time(seat.startsAt)}
      </p>
      {seat.mayScore && <Score seat={seat} path={path} onChanged={onChanged} />}
      {!seat.mayChoose && <p>{t('class.seat.closed')}</p>}
      {seat.bar && (
        <section className="panel p-4" aria-live="polite">
          <h2 className="mb-1 text-[18px]">{t('class.seat.choose')}</h2>
          <p className="text-[15px]">
            {t('class.seat.yours', {
              bars: seat.barsEach,
              mass: words.mass(seat.barMg),
              cacao: share(atMost(seat.bar.cacaoPercent)),
              sugar: share(Math.round(seat.bar.sugarPercent)),
              fat: share(Math.round(seat.bar.fatPercent)),
            })}
          </p>
          {seat.bar.allergens.length > 0 && (
            <p className="font-semibold">
              {t('class.seat.holds', { list: allergenList(seat.bar.allergens, words) })}
            </p>
          )}
        </section>
      )}
      {(['own', 'table', 'workshop'] as const).map(
        (where) =>
          warned(where) && (
            <p
              key={where}
              role="alert"
              className={`border-l-4 p-3 ${where === 'own' ? 'border-bad bg-bad-tint' : 'border-signal bg-panel'}`}
            >
              {t(`class.seat.${where}`, { list: warned(where) })}
            </p>
          ),
      )}
      {seat.problem && (
        <FaultBox role="alert">
          <span className="text-[15px]">
            {t(liesWithGuest(seat.problem) ? 'class.guest.cannot' : 'class.seat.host')}
          </span>
        </FaultBox>
      )}
      {seat.mayChoose && (
        <form
          className="panel grid gap-4 p-4"
          onSubmit={(e) => {
            e.preventDefault();
            save();
          }}
        >
          <TasteChoice of={seat} value={taste} onChange={(next) => (setState(null), setTaste(next))} />
          <AllergenBoxes
            legend={t('class.guest.allergies')}
            value={allergies}
            onChange={(next) => (setState(null), setAllergies(next))}
          />
          <TextField
            label={t('class.seat.avoid')}
            value={avoid}
            onChange={(e) => setAvoid(e.target.value)}
            maxLength={300}
          />
          {about.length > 0 && (
            <FaultBox role="alert">
              <span className="text-[15px]">{t('class.seat.own', { list: allergenList(about, words) })}</span>
            </FaultBox>
          )}
          {wrong && (
            <p role="alert" className="text-bad">
              {wrong}
            </p>
          )}
          <Button type="submit" look="main" big disabled={state === 'busy' || taste.cacaoPercent === null}>
            {t('class.seat.save')}
          </Button>
          <p role="status" className="min-h-5 text-[13.5px] text-ink-2">
            {state === 'saved' ? t('class.seat.saved') : ''}
          </p>
        </form>
      )}
    </>
  );
}

function Score({
  seat,
  path,
  onChanged,
}: {
  seat: ClassSeat;
  path: string;
  onChanged: (seat: ClassSeat) => void;
}) {
  const words = useWords();
  const { t } = words;
  const [liking, setLiking] = useState<number | null>(seat.score?.liking ?? null);
  const [text, setText] = useState(seat.score?.words ?? '');
  const [told, setTold] = useState<string | null>(null);
  const send = () =>
    void request<ClassSeat>('PUT', `${path}/score`, { liking, words: text }).then(
      (next) => {
        onChanged(next);
        setTold(t('class.seat.thanks'));
      },
      (failure: unknown) => setTold(words.explain(failure)),
    );
  return (
    <form
      className="panel grid gap-3 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <fieldset>
        <legend className="mb-2 font-head text-[18px] font-bold">{t('class.seat.score')}</legend>
        <div className="grid grid-cols-6 gap-1.5 sm:grid-cols-11">
          {Array.from({ length: 11 }, (_, n) => (
            <label
              key={n}
              className={`num grid min-h-12 cursor-pointer place-items-center rounded border has-focus-visible:outline-2 ${liking === n ? 'border-violet bg-violet text-white' : 'border-edge'}`}
            >
              <input
                type="radio"
                name="liking"
                className="sr-only"
                checked={liking === n}
                onChange={() => (setTold(null), setLiking(n))}
              />
              {n}
            </label>
          ))}
        </div>
      </fieldset>
      <TextArea
        label={t('class.seat.words')}
        value={text}
        onChange={(e) => (setTold(null), setText(e.target.value))}
        maxLength={600}
      />
      <Button type="submit" look="main" big disabled={liking === null}>
        {t('class.seat.send')}
      </Button>
      <p role="status" className="min-h-5 text-[13.5px]">
        {told}
      </p>
    </form>
  );
}
