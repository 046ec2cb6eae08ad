import { Command } from 'cmdk';
import { ScanLine } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { FindHit } from '@wunsch/contract';
import { STATIONS } from '@wunsch/core/ledger';
import { Camera } from '../shell/Camera.tsx';
import { codeReader, thingOf } from '../shell/codes.ts';
import { isBegun, placesFor, type FoundPlace } from './places.ts';
import { useMayMake, useSession } from '../shell/session.tsx';
import { useDoor, useRead } from '../shell/door.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { RoomWords, useWords } from '../words/words.tsx';

/** Finds pages, batches, lots, recipes, bars and notes, and takes you there. */
export default function Find(props: { given?: string; onClose: () => void }) {
  return (
    <RoomWords>
      <FindDialog {...props} />
    </RoomWords>
  );
}

function FindDialog({ given = '', onClose }: { given?: string; onClose: () => void }) {
  const { t } = useWords();
  const navigate = useNavigate();
  const [text, setText] = useState(given.slice(0, 80));
  const { read } = useDoor();
  const [canRead] = useState(() => codeReader() !== null);
  const [reading, setReading] = useState(false);
  const onRead = useCallback(
    async (code: string) => {
      const thing = await thingOf(code, read);
      if (!thing) return false;
      void navigate(thing.path);
      onClose();
      return true;
    },
    [navigate, onClose, read],
  );
  const { data, isLoading } = useRead<FindHit[]>(
    text.trim() ? `/api/find?q=${encodeURIComponent(text.trim())}` : null,
    {
      keepPreviousData: true,
    },
  );
  const go = (path: string) => {
    navigate(path);
    onClose();
  };
  const item =
    'flex min-h-11 cursor-pointer items-center gap-3 rounded px-3 data-[selected=true]:bg-violet-tint';
  const stations = STATIONS.filter((s) =>
    t(`station.${s}`).toLocaleLowerCase().startsWith(text.trim().toLocaleLowerCase()),
  );
  const mayMake = useMayMake();
  const isOwner = useSession().person.role === 'owner';
  const pages = placesFor(text, t).filter(
    (p) => (mayMake || !p.makes) && (isOwner || !p.owns) && !stations.some((s) => p.path === `/${s}`),
  );
  const [named, meant] = [pages.filter((p) => p.by === null), pages.filter((p) => p.by !== null)];
  const pageOf = (p: FoundPlace) => ({ value: `page ${p.path}`, path: p.path });
  const places = [
    ...stations.map((s) => ({ value: `station ${s}`, path: `/${s}` })),
    ...named.map(pageOf),
    ...(data ?? []).map((hit) => ({ value: `${hit.kind}${hit.id}`, path: hit.path })),
    ...meant.map(pageOf),
  ];
  const first = places[0];
  const [chosen, setChosen] = useState('');
  useEffect(() => setChosen(first?.value ?? ''), [first?.value]);
  // Whoever types and presses Enter at once means the first place found for what was typed, not what stood there before it.
  const [entered, setEntered] = useState(false);
  useEffect(() => {
    if (!entered || isLoading) return;
    setEntered(false);
    if (first) go(first.path);
    // It is looked at again when the answer is there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [entered, isLoading]);
  const page = (p: FoundPlace) => {
    const { value, path } = pageOf(p);
    return (
      <Command.Item key={value} value={value} onSelect={() => go(path)} className={item}>
        <span className="w-20 shrink-0 text-[12px] text-ink-3">
          {t(isBegun(p) ? 'find.act' : 'find.page')}
        </span>
        <span className="font-semibold">{t(p.title)}</span>
        {p.by !== null && <span className="truncate text-[12.5px] text-ink-3">{p.by}</span>}
      </Command.Item>
    );
  };
  return (
    <Dialog open onClose={onClose} title={t('find')} description={t('find.hint')}>
      <Command label={t('find')} shouldFilter={false} value={chosen} onValueChange={setChosen}>
        <Command.Input
          value={text}
          onValueChange={setText}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' || e.nativeEvent.isComposing) return;
            // The list itself marks what is chosen a moment after it is drawn; Enter does not wait for that.
            e.preventDefault();
            e.stopPropagation();
            const place = places.find((p) => p.value === chosen) ?? first;
            if (isLoading || !place) setEntered(true);
            else go(place.path);
          }}
          autoFocus
          placeholder={t('find.placeholder')}
          className="min-h-12 w-full rounded border border-edge bg-panel px-3 text-[16px]"
        />
        <Command.List className="mt-2 max-h-[50dvh] overflow-y-auto">
          {text.trim() !== '' && data?.length === 0 && stations.length === 0 && pages.length === 0 && (
            <p className="p-3 text-ink-3">{t('find.nothing', { text })}</p>
          )}
          {stations.map((s) => (
            <Command.Item key={s} value={`station ${s}`} onSelect={() => go(`/${s}`)} className={item}>
              <span className="font-semibold">{t(`station.${s}`)}</span>
            </Command.Item>
          ))}
          {named.map(page)}
          {data?.map((hit) => (
            <Command.Item
              key={`${hit.kind}${hit.id}`}
              value={`${hit.kind}${hit.id}`}
              onSelect={() => go(hit.path)}
              className={item}
            >
              <span className="w-20 shrink-0 text-[12px] text-ink-3">{t(`find.${hit.kind}`)}</span>
              <span className="font-semibold">{hit.title}</span>
              <span className="truncate text-[12.5px] text-ink-3">
                {hit.detail}
                {hit.state && `, ${t(`state.${hit.state}`)}`}
              </span>
            </Command.Item>
          ))}
          {meant.map(page)}
        </Command.List>
      </Command>
      {canRead && (
        <Button
          className="mt-3"
          icon={<ScanLine size={16} aria-hidden="true" />}
          onClick={() => setReading(true)}
        >
          {t('read-label')}
        </Button>
      )}
      {reading && <Camera onRead={onRead} onClose={() => setReading(false)} />}
    </Dialog>
  );
}
