import { Copy, Pencil } from 'lucide-react';
import { useContext } from 'react';
import type { ClassView } from '@wunsch/contract';
import { NoticeContext } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { copyText } from '../ui/copyText.ts';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { allergenList, findingText, liesWithGuest, shareText, weighingText } from './classNames.ts';

type Guest = ClassView['guests'][number];

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

/** Who comes to a class: what each makes, has to be careful of, and scored. */
export function Guests({
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
