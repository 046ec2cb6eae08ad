import type { months as en } from '../en/months.ts';

/** Wörter von den Monaten der Bücher. */
export const months: Record<keyof typeof en, string> = {
  months: 'Monate',
  'months.text':
    'Was jeder Monat nach den Büchern ergibt, wie sie stehen. Schließ einen Monat ab, wenn er geprüft ist: Seine Zahlen werden festgehalten, und was sie danach ändert, steht hier.',
  'months.month': 'Monat',
  'months.receivedMg': 'Lose herein',
  'months.receivedValue': 'für',
  'months.suppliesValue': 'Zutaten, Verpackung',
  'months.barsMade': 'Tafeln gemacht',
  'months.costOfBars': 'sie kosten',
  'months.barsOut': 'Tafeln hinaus',
  'months.fetched': 'verkauft für',
  'months.classIncome': 'Kurse',
  'months.unexplainedMg': 'Ungeklärt',
  'months.state': 'Stand',
  'months.was': 'abgeschlossen: {value}',
  'months.signed': 'abgeschlossen von {by}, {when}',
  'months.changed': 'seit dem Abschluss geändert',
  'months.running': 'läuft noch',
  'months.open': 'offen',
  'months.sign': 'Abschließen',
  'months.sign.of': '{month} abschließen',
  'months.sign.text':
    'Die Zahlen werden festgehalten, wie du sie siehst. Berichtigen bleibt möglich; es steht dann neben dem, was abgeschlossen war.',
  'months.reopen': 'Wieder öffnen',
  'months.reopen.of': '{month} wieder öffnen',
  'months.reopen.text': 'Sag, warum: Es steht im Verlauf.',
  'months.reason': 'Grund',
  'months.note': 'Notiz',
  'months.corrections': 'Wägungen vom {month}, seit dem Abschluss berichtigt',
  'months.done.signed': '{month} abgeschlossen',
  'months.done.reopened': '{month} wieder offen',
};
