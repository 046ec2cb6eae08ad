import { useState } from 'react';
import { SHOWN, type BatchPages, type BatchView, type Shown } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Choice, TextArea } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Whether anyone may see something of this batch's bars, what, and where; its owner switches it. */
export function PublishPanel({ view }: { view: BatchView }) {
  const { t } = useWords();
  const { person } = useSession();
  const [switching, setSwitching] = useState(false);
  const { data } = useRead<BatchPages>(`/api/pages/of-batch/${view.batch.id}`);
  if (!data) return null;
  const state = data.batch ?? data.recipe;
  const isOn = state?.isOn ?? false;
  return (
    <Panel title={t('page.title')}>
      <p className="text-[14px]">{t(isOn ? 'page.on' : 'page.off')}</p>
      {!data.batch && data.recipe && (
        <p className="text-[13px] text-ink-3">{t('page.by-recipe', { name: view.recipe?.name ?? '' })}</p>
      )}
      {isOn && (
        <ul className="mt-1 text-[13.5px]">
          {data.addresses.length === 0 && <li className="text-ink-3">{t('page.no-code')}</li>}
          {data.addresses.map((address) => (
            <li key={address}>
              <a
                href={new URL(address).pathname}
                target="_blank"
                rel="noreferrer"
                className="inline-flex min-h-11 items-center break-all underline underline-offset-4"
              >
                {address}
              </a>
            </li>
          ))}
        </ul>
      )}
      {person.role === 'owner' && (
        <Button className="mt-2" onClick={() => setSwitching(true)}>
          {t(isOn ? 'page.change' : 'page.switch')}
        </Button>
      )}
      {switching && <Publish view={view} pages={data} onClose={() => setSwitching(false)} />}
    </Panel>
  );
}

function Publish({ view, pages, onClose }: { view: BatchView; pages: BatchPages; onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const { recipe, batch } = view;
  const now = pages.batch ?? pages.recipe;
  const [of, setOf] = useState<'batch' | 'recipe'>(!pages.batch && recipe ? 'recipe' : 'batch');
  const [isOn, setOn] = useState<'on' | 'off'>(now && !now.isOn ? 'off' : 'on');
  const [shows, setShows] = useState<readonly Shown[]>(
    now?.shows ?? ['origin', 'map', 'ribbon', 'days', 'making'],
  );
  const [own, setOwn] = useState(now?.words ?? '');
  const save = () =>
    send({
      path: `/api/pages/${of === 'recipe' ? recipe!.id : batch.id}`,
      body: { of, isOn: isOn === 'on', shows, words: own },
      label: t('done.page'),
      batchId: batch.id,
    }).then(onClose, () => undefined);
  return (
    <Dialog open onClose={onClose} title={t('page.title')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <Choice
          label={t('page.title')}
          value={isOn}
          onChange={setOn}
          options={[
            { value: 'on', label: t('page.switch.on') },
            { value: 'off', label: t('page.switch.off') },
          ]}
        />
        <Choice
          label={t('page.of')}
          value={of}
          onChange={setOf}
          options={[
            { value: 'batch', label: t('page.of.batch') },
            ...(recipe
              ? [{ value: 'recipe' as const, label: t('page.of.recipe', { name: recipe.name }) }]
              : []),
          ]}
        />
        {isOn === 'on' && (
          <>
            <fieldset>
              <legend className="text-[13px] font-medium text-ink-2">{t('page.shows')}</legend>
              {SHOWN.map((part) => (
                <label key={part} className="flex min-h-11 items-center gap-3 text-[14.5px]">
                  <input
                    type="checkbox"
                    className="size-5 accent-violet"
                    checked={shows.includes(part)}
                    onChange={(e) =>
                      setShows(e.target.checked ? [...shows, part] : shows.filter((s) => s !== part))
                    }
                  />
                  {t(`page.shows.${part}`)}
                </label>
              ))}
            </fieldset>
            {shows.includes('growers') && (
              <p className="text-[13px] text-ink-2">{t('page.growers.caution')}</p>
            )}
            <TextArea
              label={t('page.words')}
              value={own}
              onChange={(e) => setOwn(e.target.value)}
              maxLength={2000}
            />
          </>
        )}
        <Button type="submit" look="main" big>
          {t('page.save')}
        </Button>
      </form>
    </Dialog>
  );
}
