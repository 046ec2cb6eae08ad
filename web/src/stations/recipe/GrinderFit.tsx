import { checkCharge } from '@wunsch/core/grind';
import { ChargeCheck } from '../grind/index.ts';
import { useGrinders } from './useGrinders.ts';

/**
 * Whether a bowl fits a grinder, before it is weighed in: one that takes it; else the largest where it is too much for all, or the smallest. Nothing
 * without a grinder of which that is known, or without a bowl.
 */
export function GrinderFit({ massMg }: { massMg: number }) {
  const grinders = useGrinders();
  if (!(massMg > 0)) return null;
  const fitting = grinders.find((m) => checkCharge(massMg, m) === 'fits');
  const isTooMuch = grinders.some((m) => checkCharge(massMg, m) === 'too-much');
  return <ChargeCheck machine={fitting ?? (isTooMuch ? grinders.at(-1) : grinders[0])} massMg={massMg} />;
}
