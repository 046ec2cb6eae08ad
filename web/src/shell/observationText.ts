import type { ObservationRecord } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';

/** An observation as a line of text. */
export function observationText(data: ObservationRecord['data'], words: Words): string {
  const { t } = words;
  switch (data.kind) {
    case 'note':
      return data.text;
    case 'event':
      return words.word('event', data.name);
    case 'temperature':
      return `${t(`place.${data.place}`)} ${words.temperature(data.celsius)}`;
    case 'grit':
      return data.um === null
        ? t('entry.tongue', { word: t(`tongue.${data.tongue ?? 'none'}`) })
        : t('entry.grit', { um: words.number(data.um, data.um % 1 ? 1 : 0) });
    case 'moisture':
      return t('entry.moisture', { percent: words.number(data.percent, 1) });
    case 'room':
      return `${words.temperature(data.celsius)}, ${words.number(data.humidity)} %`;
    case 'setTest':
      return t('entry.set-test', { minutes: words.number(data.minutes, data.minutes % 1 ? 1 : 0) });
    case 'coolingCurve':
      return t('curve.entry', { n: data.points.length });
    case 'fillSample':
      return t('fill.entry', { n: data.weightsMg.length });
    case 'round':
      return t('round.in.done', { n: data.moulds, bars: data.bars });
    case 'shellStage':
      return t('shell.stage.done', { stage: t(`stage.${data.stage}`) });
    case 'stirring':
      return t(`stirring.${data.level}.done`);
    case 'result':
      return t('entry.result', { gloss: data.gloss, snap: data.snap });
    case 'timer':
      return t('entry.timer', { label: data.label, time: words.when(data.dueAt) });
    case 'timerDone':
      return t('entry.timer-done');
    default:
      return t(`entry.${data.kind}`);
  }
}
