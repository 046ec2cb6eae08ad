import { Link } from 'react-router';
import type { PlanRoomView } from '@wunsch/contract';
import type { Needs } from '@wunsch/core/plan';
import { FaultBox } from '../ui/FaultBox.tsx';
import { useWords } from '../words/words.tsx';
import { orderName } from './names.ts';

/** What is promised and cannot be made: for whom, what is missing, and where it is chosen. */
export function CannotMake({ room, needs }: { room: PlanRoomView; needs: Needs }) {
  const { t } = useWords();
  if (needs.impossible.length === 0) return null;
  return (
    <FaultBox>
      <h2 className="text-[13.5px] font-semibold">{t('plan.cannot-make')}</h2>
      <ul className="mt-1 grid gap-1.5">
        {needs.impossible.flatMap(({ lineId, why }) => {
          const line = needs.lines.find((l) => l.id === lineId);
          if (!line) return [];
          const name = orderName(room, line.orderId, t);
          return [
            <li key={lineId}>
              {line.kind === 'class' ? (
                <Link to={`/plan/classes/${line.orderId}`} className="font-semibold underline">
                  {name}
                </Link>
              ) : (
                <b>{name}</b>
              )}
              : {t(`plan.cannot-make.${why}`)} {t(`plan.cannot-make.${line.kind}`)}
            </li>,
          ];
        })}
      </ul>
    </FaultBox>
  );
}
