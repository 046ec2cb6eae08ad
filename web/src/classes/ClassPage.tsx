import { Copy, Pencil, Printer } from 'lucide-react';
import { useContext, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { ClassView } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { NoticeContext } from '../shell/entry.ts';
import { useMayMake } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { copyText } from '../ui/copyText.ts';
import { FaultBox } from '../ui/FaultBox.tsx';
import { Figure, Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { ClassDialog } from './ClassDialog.tsx';
import {
  allergenList,
  atMost,
  comingTo,
  findingText,
  liesWithGuest,
  shareText,
  stuffName,
  weighingText,
} from './classNames.ts';
import { GuestDialog } from './GuestDialog.tsx';
import { HoldDialog } from './HoldDialog.tsx';
import { RunSheetPicture } from './RunSheetPicture.tsx';

type Guest = ClassView['guests'][number];

/** One class: who comes, what each makes, how it runs, what it takes and costs. */
export default function ClassPage() {
  const words = useWords();
  const { t } = words;
  const { classId } = useParams();
  const { data: of, error } = useRead<ClassView>(`/api/classes/${classId}`);
  const [asking, setAsking] = useState<'change' | 'hold' | 'guest' | Guest | null>(null);
  const mayMake = useMayMake();
  const { address } = useDoor();
  if (!of) return <p className="p-4 text-ink-3">{error ? words.explain(error) : t('loading')}</p>;
  const isOpen = of.held === null && of.state === 'planned' && mayMake;
  const paper = (name: string, text: string) => (
    <a
      href={address(`/api/classes/${of.id}/${name}.pdf?language=${words.language}&design=mini`)}
      target="_blank"
      rel="noreferrer"
      className="inline-flex min-h-11 items-center gap-2 rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
    >
      <Printer size={17} aria-hidden="true" /> {text}
    </a>
  );
  const coming = comingTo(of);
  return (
    <div className="p-3 sm:px-4">
      <p>
        <Link to="/plan/classes" className="inline-flex min-h-11 items-center underline underline-offset-4">
          {t('classes')}
        </Link>
      </p>
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="text-[26px]">{of.title}</h1>
        <span className="min-w-0 flex-1 text-[13.5px] text-ink-2">
          {words.day(of.startsAt)}, {words.time(of.startsAt)} ·{' '}
          {t('classes.of', { n: coming.length, places: of.places })}
        </span>
        {mayMake && of.held === null && (
          <span className="flex flex-wrap gap-2">
            <Button icon={<Pencil size={17} aria-hidden="true" />} onClick={() => setAsking('change')}>
              {t('class.change')}
            </Button>
            {isOpen && coming.length > 0 && (
              <Button onClick={() => setAsking('hold')}>{t('class.hold')}</Button>
            )}
          </span>
        )}
      </header>
      {of.state === 'called-off' && <p className="mb-2 font-semibold">{t('class.off')}</p>}
      {of.held && (
        <p className="mb-2 text-[13.5px]">
          {t('class.been', { by: of.held.by, when: words.when(of.held.at) })} {of.held.note}
        </p>
      )}
      {of.problem && (
        <FaultBox role="alert" className="mb-2">
          {of.problem === 'too-dark'
            ? t('class.most', {
                asked: shareText(Math.max(...of.sweetness), words),
                percent: words.percent(atMost(of.mostCacao ?? 0) / 100),
              })
            : t(`class.problem.${of.problem}`)}
        </FaultBox>
      )}
      <div className="grid gap-2 lg:grid-cols-[1.75fr_1fr]">
        <div className="grid min-w-0 content-start gap-2">
          <Guests
            of={of}
            onAdd={isOpen ? () => setAsking('guest') : null}
            onChange={isOpen ? setAsking : null}
          />
          <Panel
            title={t('class.run')}
            aside={
              of.sheet.over > 0 ? (
                <span className="font-semibold text-bad">
                  ▲ {t('class.run.over', { over: words.number(of.sheet.over) })}
                </span>
              ) : (
                t('class.run.ends', {
                  ends: words.number(of.sheet.ends),
                  spare: words.number(of.sheet.spare),
                })
              )
            }
          >
            <RunSheetPicture of={of} />
          </Panel>
          {coming.length > 0 && (
            <div className="flex flex-wrap gap-2">
              {paper('run-sheet', t('class.print.run'))}
              {paper('cards', t('class.print.cards'))}
              {!of.problem && paper('labels', t('class.print.labels'))}
            </div>
          )}
        </div>
        <div className="grid min-w-0 content-start gap-2">
          <Before of={of} />
          <Needs of={of} />
          <Costs of={of} />
        </div>
      </div>
      {asking === 'change' && <ClassDialog of={of} onClose={() => setAsking(null)} />}
      {asking === 'hold' && <HoldDialog of={of} onClose={() => setAsking(null)} />}
      {asking === 'guest' && <GuestDialog of={of} onClose={() => setAsking(null)} />}
      {asking !== null && typeof asking === 'object' && (
        <GuestDialog of={of} guest={asking} onClose={() => setAsking(null)} />
      )}
    </div>
  );
}

/** What is to be careful of with a guest, worst first. */
function Careful({ guest, of }: { guest: Guest; of: ClassView }) {
  const words = useWords();
  const names = new Map(of.guests.map((g) => [g.id, g.name]));
  return (
    <>
      {(guest.allergies.length > 0 || guest.avoid) && (
        <span className="block text-[12.5px] font-semibold">
          ▲ {[allergenList(guest.allergies, words), guest.avoid].filter(Boolean).join(', ')}
        </span>
      )}
      {guest.findings.map((f) => (
        <span
          key={f.allergen}
          className={`block text-[12.5px] ${f.where === 'own' ? 'text-bad' : 'text-ink-2'}`}
        >
          {findingText(f, names, words)}
        </span>
      ))}
    </>
  );
}

function Guests({
  of,
  onAdd,
  onChange,
}: {
  of: ClassView;
  onAdd: (() => void) | null;
  onChange: ((guest: Guest) => void) | null;
}) {
  const words = useWords();
  const { t } = words;
  const notify = useContext(NoticeContext);
  const hasScores = of.guests.some((g) => g.score);
  // What could not be copied can be read off.
  const copy = (g: Guest) =>
    void copyText(of.address + g.code).then((isCopied) =>
      notify({
        text: isCopied ? t('class.guest.copied', { name: g.name }) : of.address + g.code,
        tone: 'done',
      }),
    );
  const choice = (g: Guest) =>
    g.state === 'not-coming' ? (
      <span className="text-ink-3">{t('class.guest.gone')}</span>
    ) : g.cacaoPercent === null ? (
      <span className="text-ink-3">{t('class.guest.open')}</span>
    ) : (
      <>
        {shareText(g.cacaoPercent, words)}
        {g.bar && <span className="block text-[12.5px] text-ink-2">{weighingText(g.bar, words)}</span>}
        {g.problem && liesWithGuest(g.problem) && (
          <span className="block text-[12.5px] text-bad">▲ {t('class.guest.cannot')}</span>
        )}
        {g.bar?.faults.map((f) => (
          <span key={f} className="block text-[12.5px] text-ink-2">
            ▲ {t(`class.fault.${f}`)}
          </span>
        ))}
      </>
    );
  return (
    <Panel
      title={t('classes.guests')}
      aside={
        onAdd && (
          <Button look={of.guests.length === 0 ? 'main' : 'plain'} onClick={onAdd}>
            {t('class.guest.add')}
          </Button>
        )
      }
    >
      {of.guests.length === 0 ? (
        <p className="text-[13.5px] text-ink-2">{t('class.guests.none')}</p>
      ) : (
        <Table
          caption={t('classes.guests')}
          rows={of.guests}
          keyOf={(g) => g.id}
          columns={[
            {
              id: 'name',
              title: t('class.guest'),
              cell: (g) => (
                <>
                  <span className="block font-semibold">{g.name}</span>
                  <Careful guest={g} of={of} />
                  {g.came && <span className="block text-[12.5px] text-ink-3">{t('class.guest.came')}</span>}
                </>
              ),
            },
            { id: 'choice', title: t('class.guest.choice'), cell: choice },
            ...(hasScores
              ? [
                  {
                    id: 'score',
                    title: t('class.guest.score'),
                    cell: (g: Guest) =>
                      g.score && (
                        <>
                          <span className="num">{words.number(g.score.liking, 1)}</span>
                          <span className="block text-[12.5px] text-ink-2">{g.score.words}</span>
                        </>
                      ),
                  },
                ]
              : []),
            {
              id: 'act',
              title: t('class.guest.link'),
              cell: (g) => (
                <span className="flex justify-end gap-1">
                  <Button
                    look="quiet"
                    className="px-2"
                    aria-label={t('class.guest.copy', { name: g.name })}
                    title={of.address + g.code}
                    onClick={() => copy(g)}
                    icon={<Copy size={17} aria-hidden="true" />}
                  />
                  {onChange && (
                    <Button
                      look="quiet"
                      className="px-2"
                      aria-label={t('class.guest.change', { name: g.name })}
                      onClick={() => onChange(g)}
                      icon={<Pencil size={17} aria-hidden="true" />}
                    />
                  )}
                </span>
              ),
            },
          ]}
        />
      )}
      {of.guests.some((g) => g.allergies.length > 0) && (
        <p className="mt-2 text-[12.5px] text-ink-3">{t('class.allergy.caution')}</p>
      )}
    </Panel>
  );
}

function Before({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  const start = Date.parse(of.startsAt);
  return (
    <Panel title={t('class.before')}>
      <ul className="grid gap-2 text-[13.5px]">
        {of.sheet.before.map(({ what, hoursBefore, massMg }) => (
          <li key={what} className="grid grid-cols-[7.5rem_1fr] gap-2">
            <span className="num text-ink-2">
              {hoursBefore >= 12
                ? `${words.day(new Date(start - hoursBefore * 3_600_000).toISOString())}`
                : words.time(new Date(start - hoursBefore * 3_600_000).toISOString())}
            </span>
            <span>{t(`class.before.${what}`, { mass: massMg ? words.mass(massMg) : '' })}</span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

function Needs({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  // What is on the shelf today says nothing about a class that has been.
  const isAhead = of.held === null && of.state === 'planned';
  return (
    <Panel title={t('class.needs')}>
      <ul className="grid gap-1.5 text-[13.5px]">
        {of.needs.map((n) => {
          const short =
            n.massMg !== null && n.onHandMg !== null && n.onHandMg < n.massMg ? n.massMg - n.onHandMg : 0;
          return (
            <li key={`${n.what} ${n.name}`} className="flex flex-wrap justify-between gap-x-3">
              <span>{stuffName(n.name, words)}</span>
              <span className="num">
                {n.massMg === null ? t('class.needs.moulds', { n: n.pieces ?? 0 }) : words.mass(n.massMg)}
                {n.massMg !== null && isAhead && (
                  <span
                    className={`ml-2 text-[12.5px] ${short > 0 ? 'font-semibold text-bad' : 'text-ink-3'}`}
                  >
                    {short > 0
                      ? `▲ ${t('class.needs.short', { mass: words.mass(short) })}`
                      : n.what === 'base' && of.base.of === 'recipe'
                        ? t('class.needs.to-make')
                        : n.onHandMg === null
                          ? t('class.needs.unknown')
                          : t('class.needs.here', { mass: words.mass(n.onHandMg) })}
                  </span>
                )}
              </span>
            </li>
          );
        })}
      </ul>
      {of.base.of === 'recipe' && isAhead && (
        <p className="mt-2 text-[13px] text-ink-2">
          {t('class.needs.planned')}{' '}
          <Link to="/plan" className="underline underline-offset-4">
            {t('plan')}
          </Link>
        </p>
      )}
    </Panel>
  );
}

function Costs({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  const coming = comingTo(of).length;
  const cost = coming > 0 ? of.cost : of.costFull;
  return (
    <Panel
      title={t('class.cost')}
      aside={
        coming > 0
          ? t(of.held ? 'class.cost.was' : 'class.cost.now', { n: coming })
          : t('class.cost.full', { n: of.places })
      }
    >
      <div className="mb-2 flex flex-wrap gap-x-6 gap-y-2">
        <Figure name={t('class.cost.head')}>{cost.perHead === null ? '–' : words.money(cost.perHead)}</Figure>
        <Figure name={t('class.cost.income')}>{words.money(cost.income)}</Figure>
        <Figure name={t('class.cost.left')}>
          <span className={cost.left < 0 ? 'text-bad' : ''}>
            {cost.left < 0 ? '▲ ' : ''}
            {words.money(cost.left)}
          </span>
        </Figure>
      </div>
      <ul className="grid gap-1 text-[13.5px]">
        {cost.parts.map((p) => (
          <li key={p.name} className="flex justify-between gap-3">
            <span>{t(`class.cost.${p.name}`)}</span>
            <span className="num">{words.money(p.amount)}</span>
          </li>
        ))}
      </ul>
      {of.unpriced.length > 0 && (
        <FaultBox className="mt-2">
          {t('class.cost.unpriced', {
            what: of.unpriced.map((name) => stuffName(name, words)).join(', '),
            n: of.unpriced.length,
          })}
        </FaultBox>
      )}
      <p className="mt-2 text-[13.5px] text-ink-2">
        {cost.paysFrom === null ? t('class.cost.never') : t('class.cost.from', { n: cost.paysFrom })}
      </p>
      {coming > 0 && coming < of.places && (
        <p className="text-[13px] text-ink-3">
          {t('class.cost.full', { n: of.places })}: {words.money(of.costFull.left)}{' '}
          {t('class.cost.left').toLowerCase()}
        </p>
      )}
    </Panel>
  );
}
