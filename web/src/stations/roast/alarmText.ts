import type { RoastAlarm } from '@wunsch/core/roast';
import type { Words } from '../../words/words.tsx';

/** An alarm in the page's words. */
export function alarmText(a: RoastAlarm, words: Words): string {
  const { t } = words;
  switch (a.code) {
    case 'scorch':
      return t('alarm.scorch', {
        surface: words.temperature(a.surfaceC, 0),
        ceiling: words.temperature(a.ceilingC, 0),
      });
    case 'stalled':
      return t('alarm.stalled');
    case 'stir-due':
      return t('alarm.stir-due', { late: words.duration(Math.round(a.lateSeconds)) });
    case 'probe-lost':
      return t('alarm.probe-lost', { silent: words.duration(Math.round(a.silentSeconds)) });
    case 'fahrenheit':
      return t('alarm.fahrenheit', { value: words.number(a.celsius), meant: words.temperature(a.meantC, 0) });
    case 'scorch-ahead':
      return t('alarm.scorch-ahead', {
        time: words.duration(Math.round(a.seconds / 15) * 15),
        ceiling: words.temperature(a.ceilingC, 0),
      });
    case 'oven-hot':
      return t('alarm.oven-hot', { oven: words.temperature(a.ovenC, 0), set: words.temperature(a.setC, 0) });
    case 'oven-cold':
      return t('alarm.oven-cold', { oven: words.temperature(a.ovenC, 0), set: words.temperature(a.setC, 0) });
    case 'beans-out':
      return t('alarm.beans-out', { late: words.duration(Math.round(a.lateSeconds)) });
  }
}
