import { workshopClock } from '../shell/clock.ts';

/** The day it is at an instant by the calendar of this machine, ISO. */
export function todayAt(ms: number): string {
  const at = new Date(ms);
  return `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`;
}

/** Today as the calendar on this machine has it, ISO. */
export const today = (): string => todayAt(workshopClock.now());
