import { useEffect, useRef } from 'react';
import { PASSED } from '@wunsch/core/trainer';
import { useWords } from '../words/words.tsx';

/** Points of a hundred, large, and whether they are enough; nothing is said of that while it still goes on. */
export function Points({ points, isFinal = true }: { points: number; isFinal?: boolean }) {
  const { t } = useWords();
  const shown = useRef<HTMLParagraphElement>(null);
  // Whoever has just answered stands at the end of a long page.
  useEffect(() => {
    if (isFinal) shown.current?.scrollIntoView?.({ block: 'center' });
  }, [isFinal]);
  return (
    <p ref={shown} className="flex flex-wrap items-baseline gap-x-3">
      <span className="num text-[56px] font-semibold leading-none">{points}</span>
      <span className="text-[14px]">
        {t('practice.of-100')}
        {isFinal && `, ${t(points >= PASSED ? 'practice.passed' : 'practice.again', { n: PASSED })}`}
      </span>
    </p>
  );
}
