import { QRCodeSVG } from 'qrcode.react';
import { useRead } from '../shell/door.tsx';
import { useInstall } from '../shell/install.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/**
 * How a phone or tablet opens the workshop: a code to point its camera at, or what to do so that it can; and how Wunsch gets a sign of its own on
 * this device.
 */
export function PhonePanel() {
  const { t } = useWords();
  const { way, install } = useInstall();
  const { data = [] } = useRead<string[]>('/api/addresses');
  return (
    <Panel title={t('phone')}>
      {data.length === 0 ? (
        <p className="max-w-prose">{t('phone.closed')}</p>
      ) : (
        <>
          <p className="mb-3 max-w-prose">{t('phone.open')}</p>
          <ul className="flex flex-wrap gap-6">
            {data.map((address) => (
              <li key={address} className="grid justify-items-center gap-2">
                {/* A code is read dark on light, whatever the theme. */}
                <span className="rounded bg-white p-3">
                  <QRCodeSVG value={address} size={176} title={address} />
                </span>
                <span className="select-all tabular-nums">{address}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3 border-t border-line pt-3">
        <p className="max-w-prose min-w-0 flex-1 basis-72">{t(`phone.install.${way}`)}</p>
        {way === 'ask' && <Button onClick={() => void install()}>{t('phone.install')}</Button>}
      </div>
    </Panel>
  );
}
