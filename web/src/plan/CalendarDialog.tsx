import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';
import { useState } from 'react';
import type { CalendarAddress } from '@wunsch/contract';
import type { z } from 'zod';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useSession } from '../shell/session.tsx';
import { useReachable } from '../shell/useReachable.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useWords } from '../words/words.tsx';

/** A token of chance, and its hash as the server keeps it. */
function newAddress(): { token: string; hash: string } {
  const token = bytesToHex(crypto.getRandomValues(new Uint8Array(24)));
  // The browser's own hashing works over HTTPS only, and a workshop's network may have none.
  return { token, hash: bytesToHex(sha256(token)) };
}

/** One’s plan as a calendar: a file, and a private address a phone can subscribe to. */
export function CalendarDialog({ onClose }: { onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const { person } = useSession();
  const send = useEntryHere();
  const { data: addresses = [] } = useRead<z.infer<typeof CalendarAddress>[]>('/api/calendar-addresses');
  const [made, setMade] = useState<string | null>(null);
  const [isMaking, setMaking] = useState(false);
  const { base, isAlone } = useReachable();
  const make = async () => {
    const { token, hash } = newAddress();
    setMaking(true);
    try {
      await send({
        path: `/api/calendar-addresses/${newId()}`,
        body: { personId: person.id, tokenHash: hash },
        label: t('done.plan.calendar'),
      });
    } finally {
      setMaking(false);
    }
    setMade(`${base}/api/calendars/${token}.ics?language=${words.language}`);
  };
  const end = (id: string) =>
    send({
      path: `/api/calendar-address-ends/${newId()}`,
      body: { addressId: id },
      label: t('done.plan.calendar-end'),
    });
  return (
    <Dialog open onClose={onClose} title={t('plan.calendar')} description={t('plan.calendar.text')}>
      <div className="grid gap-3">
        <a
          href={`/api/plan.ics?person=${person.id}&language=${words.language}`}
          download="plan.ics"
          className="inline-flex min-h-11 items-center justify-self-start rounded border border-edge px-4 font-semibold hover:bg-panel-2"
        >
          {t('plan.calendar.file')}
        </a>
        {made ? (
          <div>
            <label className="grid gap-1 text-[12.5px] font-medium text-ink-2">
              {t('plan.calendar.address')}
              <input
                readOnly
                value={made}
                onFocus={(e) => e.target.select()}
                className="min-h-11 rounded border border-edge bg-panel-2 px-2 text-[13px] text-ink"
              />
            </label>
            <p className="mt-1 text-[12.5px] text-ink-3">{t('plan.calendar.once')}</p>
            {isAlone && <p className="mt-1 text-[12.5px] text-ink-2">{t('plan.calendar.alone')}</p>}
          </div>
        ) : (
          <div>
            <Button look="main" disabled={isMaking} onClick={() => void make().catch(() => undefined)}>
              {t('plan.calendar.make')}
            </Button>
          </div>
        )}
        {addresses.length > 0 && (
          <ul>
            {addresses.map((a) => (
              <li key={a.id} className="flex items-center justify-between gap-3 border-t border-line py-2">
                <span>{t('plan.calendar.since', { day: words.day(a.createdAt) })}</span>
                <Button look="danger" onClick={() => void end(a.id).catch(() => undefined)}>
                  {t('plan.calendar.end')}
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </Dialog>
  );
}
