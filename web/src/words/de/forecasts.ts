import type { forecasts as en } from '../en/forecasts.ts';

/** Wörter vom Rückblick auf Vorhersagen. */
export const forecasts: Record<keyof typeof en, string> = {
  forecasts: 'Wie gut sind unsere Vorhersagen hier',
  'forecasts.none': 'Noch nichts zum Zurückblicken',
  'forecasts.none.text': 'Ab der vierten Charge einer Station wird jede Vorhersage an dem gemessen, was kam.',
  'forecasts.text':
    'Jede Vorhersage wird noch einmal aus dem gemacht, was kurz vorher bekannt war, und an dem gemessen, was kam. Eine Spanne soll vier von fünf treffen: Trifft sie weniger, war sie zu sicher, trifft sie fast alle, zu vorsichtig.',
  'forecasts.yield': '{station}: was von der Masse bleibt',
  'forecasts.grit': '{station}: die letzte Feinheit',
  'forecasts.sourness': 'Conche: die zuletzt verkostete Säure',
  'forecasts.drying': 'Trocknen: die letzte Feuchte nach Gewicht',
  'forecasts.roast': 'Rösten: die Bohnen zehn Minuten voraus',
  'forecasts.roast.left':
    '{n, plural, one {Eine Röstung wird} other {# Röstungen werden}} noch einmal vorhergesagt …',
  'forecasts.score': '{n} von 10',
  'forecasts.n': '{n, plural, one {# Vorhersage} other {# Vorhersagen}}',
  'forecasts.word.too-few': 'Zu wenige für ein Urteil: {n} sind nötig',
  'forecasts.word.about-right': 'Auf ihre Spanne ist Verlass',
  'forecasts.word.too-sure': 'Zu sicher: Rechne mit mehr Spielraum',
  'forecasts.word.too-careful': 'Vorsichtiger als nötig',
  'forecasts.held': '{held} von {n} lagen in der Spanne: {percent} %.',
  'forecasts.sure': 'Soweit so viele es sagen können, sind es {low} bis {high} %; gemeint sind 80 %.',
  'forecasts.off': 'Meist um {off} daneben, in der Mitte {bias}.',
  'forecasts.points': '{n} Prozentpunkte',
  'forecasts.range': 'Spanne',
  'forecasts.less': 'weniger kam',
  'forecasts.as-said': 'wie gesagt',
  'forecasts.more': 'mehr kam',
  'forecasts.alt': '{name}: {held} von {n} in der Spanne',
  warnings: 'Warnungen',
  'warnings.text':
    'Jede noch einmal aus dem gemacht, was damals bekannt war, wie ihre Seite sie gezeigt hätte. Zurückblicken lässt sich nur auf Gemessenes: aufgezeichnete Schüsseln, nach dem üblichen Fenster ihrer Schokolade, und gewogene Trocknungen.',
  'warnings.what': 'Gewarnt vor',
  'warnings.in-time': 'Vorher gesagt',
  'warnings.lead': 'Wie lange vorher',
  'warnings.false': 'Umsonst',
  'warnings.bowl-window': 'Eine Schüssel, die gleich ihr Fenster verlässt',
  'warnings.drying-mould': 'Zwei Tage über 20 % Wasser (Schimmel)',
  'warnings.of': '{n} von {of}',
  'warnings.never': 'kam nie vor',
};
