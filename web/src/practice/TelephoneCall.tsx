import { Phone, PhoneOff } from 'lucide-react';
import type { Practice, PracticeHand } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** A telephone that rings beside the work: taken, it keeps hands from it until one says that one will ring back. */
export function TelephoneCall({
  state,
  onHand,
}: {
  state: Practice['telephone'];
  onHand: (hand: PracticeHand) => Promise<unknown>;
}) {
  const { t } = useWords();
  const act = (what: 'take-call' | 'end-call') => void onHand({ act: what }).catch(() => undefined);
  return (
    <div
      role="alert"
      className={
        state ? 'flex flex-wrap items-center gap-x-4 gap-y-2 border-b-4 border-signal bg-panel px-4 py-2' : ''
      }
    >
      {state && (
        <>
          {state === 'rings' ? <Phone aria-hidden="true" /> : <PhoneOff aria-hidden="true" />}
          <p className="grow text-[14px]">
            <b>{t(`practice.telephone.${state}`)}</b> {t(`practice.telephone.${state}.text`)}
          </p>
          {state === 'rings' && (
            <>
              <Button onClick={() => act('take-call')}>{t('practice.telephone.take')}</Button>
              <Button onClick={() => act('end-call')}>{t('practice.telephone.let-ring')}</Button>
            </>
          )}
          {state === 'talking' && (
            <Button look="main" onClick={() => act('end-call')}>
              {t('practice.telephone.ring-back')}
            </Button>
          )}
        </>
      )}
    </div>
  );
}
