import { Pencil, Printer } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { ClassView } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { FaultBox } from '../ui/FaultBox.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { ClassDialog } from './ClassDialog.tsx';
import { Costs } from './Costs.tsx';
import { Guests } from './Guests.tsx';
import { Before, Needs } from './Needs.tsx';
import { atMost, comingTo, shareText } from './classNames.ts';
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
