import type { files as en } from '../en/files.ts';

/** Wörter von dem, was als Datei mitgenommen werden kann. */
export const files: Record<keyof typeof en, string> = {
  files: 'Dateien',
  'files.tables': 'Ganze Tabellen',
  'files.text':
    'Jede Tabelle als CSV, das jede Tabellenkalkulation und jedes Statistikprogramm liest: eine Zeile ein Ding, Einheiten im Kopf. Was noch verdeckt ist, ist nicht dabei.',
  'files.lots': 'Lose',
  'files.batches': 'Chargen',
  'files.steps': 'Schritte',
  'files.movements': 'Wägungen',
  'files.stock': 'Posten, vorhandene und verbrauchte',
  'files.deliveries': 'Lieferungen',
  'files.supplies': 'Zutaten und Verpackung, Wareneingang',
  'files.observations': 'Notizen, Prüfungen und Messungen von Hand',
  'files.tastings': 'Verkostungen',
  'files.cases': 'Fehler und Reklamationen',
  'files.recipes': 'Rezepte, Zeile für Zeile',
  'files.ingredients': 'Zutaten',
  'files.orders': 'Aufträge, Zeile für Zeile',
  'files.customers': 'Kundschaft',
  'files.machines': 'Maschinen',
  'files.machine-log': 'Reinigung und Wartung',
  'files.pickings': 'Ernten',
  'files.plots': 'Anbauflächen aller Lose, GeoJSON',
  'files.xlsx': '{table} als XLSX',
  'files.xlsx.long':
    'Ein Tabellenblatt fasst etwa eine Million Zeilen, und diese Tabelle hat mehr: nimm die CSV-Datei.',
  'files.xlsx.failed': 'Die Tabelle ließ sich nicht holen; bitte noch einmal.',
  'files.epcis': 'Alles, was sich bewegt hat, EPCIS 2.0',
  'files.trail': 'Verlauf',
  'files.makers': 'Ganze Tabellen nehmen Inhaber und Macher mit.',
  'files.whole': 'Die ganze Werkstatt',
  'files.whole.text':
    'Ein Zip mit allem: jede Tabelle als JSON-Zeilen mit ihrem Schema, Fotos und Dokumente, wie sie sind, und Prüfsummen. Es kommt in eine leere Werkstatt zurück, hier, auf einem anderen Rechner oder in einer späteren Version. Passwörter stehen nur als Hash darin; heb es trotzdem auf wie einen Schlüssel.',
  'files.whole.take': 'Archiv mitnehmen',
  'files.whole.owners': 'Das Archiv nehmen Inhaber mit.',
  backups: 'Sicherungen',
  'backups.none':
    'Für Sicherungen wurde kein Ordner genannt. Starte Wunsch mit WUNSCH_BACKUPS=<Ordner auf einer anderen Platte>: Jeden Tag kommt ein Archiv der ganzen Werkstatt dorthin und wird einmal geöffnet, um zu sehen, ob es heil ist.',
  'backups.not-yet': 'Es gibt noch keine.',
  'backups.last': 'Die letzte ist von {when}; {n, plural, one {# wird} other {# werden}} aufgehoben.',
  'backups.folder': 'Sie kommen nach {folder}.',
  'backups.next': 'Die nächste {when}.',
  'backups.failed': 'Der Versuch von {when} ist gescheitert: {why}',
  'backups.text':
    'Jede wird geöffnet, bevor sie zählt. Die letzten zwei Wochen bleiben Tag für Tag, dann eine je Woche, dann eine je Monat, drei Jahre lang. Jede lässt sich in eine leere Werkstatt zurückspielen.',
  'backups.now': 'Jetzt sichern',
  'backups.runs': 'wird gemacht …',
  putback: 'Es gibt schon ein Archiv einer Werkstatt',
  'putback.text':
    'Spiel es hier zurück: Alles kommt wieder, wie es war, auch die Fotos. Melde dich danach an wie dort. Ein Archiv einer früheren Version wird dabei auf den neuen Stand gebracht.',
  'putback.choose': 'Archiv wählen (Zip)',
  'putback.sends': '{percent} % gesendet',
  'putback.checks': 'wird geprüft und zurückgespielt; das kann einige Minuten dauern',
};
