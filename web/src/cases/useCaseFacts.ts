import { useEffect, useRef, useState } from 'react';
import type { CaseUpdate, CaseView } from '@wunsch/contract';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords } from '../words/words.tsx';

type Part = Partial<CaseUpdate>;

/** What of a case can be changed, as the server has it. */
const factsOf = ({ code, batchId, signs, clues, text, kept, name, contact, reply }: CaseView) => ({
  code,
  batchId,
  signs,
  clues,
  text,
  kept,
  name,
  contact,
  reply,
});

/**
 * What is known of a case, and changing it. A change is seen at once and sent from the version that is on the page; what is changed while one
 * travels waits for the page to have caught up, so that three pictures tapped one after another are no conflict. What is refused goes back.
 */
export function useCaseFacts(view: CaseView): {
  facts: ReturnType<typeof factsOf>;
  change: (part: Part) => void;
} {
  const { t } = useWords();
  const send = useEntryHere();
  const [ahead, setAhead] = useState<Part>({});
  const under = useRef<{ version: number; part: Part; waits: boolean } | null>(null);
  useEffect(() => {
    const settle = () => {
      const part = under.current?.part ?? {};
      under.current = null;
      setAhead((now) =>
        Object.fromEntries(Object.entries(now).filter(([key, value]) => part[key as keyof Part] !== value)),
      );
    };
    const sent = under.current;
    if (sent && sent.version !== view.version) return settle();
    // While the server is away what comes next is kept beside it, where it survives the page.
    const isFree = !sent || (sent.waits && sent.part !== ahead);
    if (!isFree || Object.keys(ahead).length === 0) return;
    const mine = { version: view.version, part: ahead, waits: false };
    under.current = mine;
    send({
      path: `/api/cases/${view.id}/facts`,
      body: { ...factsOf(view), ...ahead },
      label: t('done.case.saved'),
      ifMatch: view.version,
      quiet: ahead.reply === undefined,
    }).then(({ waiting }) => {
      mine.waits = waiting;
      // What was changed meanwhile goes to wait, too.
      if (waiting) setAhead((now) => (now === mine.part ? now : { ...now }));
    }, settle);
  }, [ahead, view, send, t]);
  return {
    facts: { ...factsOf(view), ...ahead } as ReturnType<typeof factsOf>,
    change: (part) => setAhead((now) => ({ ...now, ...part })),
  };
}
