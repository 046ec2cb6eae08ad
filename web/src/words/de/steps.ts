import type { steps as en } from '../en/steps.ts';

/** Wörter, die durch die erste Charge führen. */
export const steps: Record<keyof typeof en, string> = {
  steps: 'Deine erste Charge',
  'steps.done': '{n} von {of} getan',
  'steps.all':
    'Von der Bohne bis zur Tafel: alle {of} Schritte sind getan. Schließe die Charge auf ihrem Zettel ab, wenn nichts mehr kommt.',
  'steps.away': 'Weglegen',
  'steps.is-done': 'getan',
  'steps.practise': 'Eine Röstung oder eine Schüssel üben',
  'steps.practise.text':
    'Dabei gehen niemandes Bohnen verloren: die eigenen Bildschirme der Stationen vor einem simulierten Ofen, im Zeitraffer.',
  'steps.class': 'Einen Kurs planen',
  'steps.class.text':
    'Ein Tag, Plätze, ein Preis. Der Ablauf sagt, was geröstet, gemahlen und temperiert sein muss, bevor die Gäste kommen.',
  'steps.harvest': 'Den ersten Erntegang notieren',
  'steps.harvest.text':
    'Wie viele Früchte, von welcher Parzelle oder welchem Baum, was bezahlt wurde. Daraus wächst das Jahr jeder Parzelle. Früchte oder Bohnen, die ohne das gekauft sind, wieg gleich als Los ein.',
  'steps.crop': 'Die Ernte als Los annehmen',
  'steps.crop.text':
    'Wähl die Erntegänge, die in einen Kasten kommen, und wieg sie: Früchte oder nasse Bohnen werden ein Los, und was bezahlt wurde, geht mit.',
  'steps.receive': 'Das erste Los einwiegen',
  'steps.receive.text':
    'Stell den Sack auf die Waage und sag, woher er kommt. Ein kurzer Code genügt für den Anfang; von nun an hat jedes Gramm einen Ort.',
  'steps.ferment': 'Die nassen Bohnen fermentieren und trocknen',
  'steps.ferment.text':
    'Verfolg Kasten oder Haufen nach Temperatur und Wenden, dann das Trocknen nach Gewicht. Sind sie trocken, nimm sie als Los trockener Bohnen herein.',
  'steps.start': 'Eine Charge beginnen',
  'steps.start.text':
    'Öffne das Los und beginne daraus eine Charge. Sie bekommt einen Code, der bis aufs Etikett der Tafel mitgeht.',
  'steps.sort': 'Die Bohnen auslesen',
  'steps.sort.text':
    'Lies flache, schimmlige und zerbrochene aus, und Steine. Wieg den Ausschuss: Sein Anteil sagt etwas über das Los.',
  'steps.roast': 'Rösten',
  'steps.roast.text':
    'Wähl einen Plan und wieg eine Füllung ein. Mit Fühler zeichnet sich die Kurve selbst; ohne tippst du alle paar Minuten eine Temperatur. Die Vorhersage sagt, wann sie heraus müssen.',
  'steps.winnow': 'Brechen und windsichten',
  'steps.winnow.text':
    'Wieg Bruch und Schalen. Das Bild zeigt, was stärkerer oder schwächerer Wind behalten hätte.',
  'steps.recipe': 'Ein Rezept schreiben',
  'steps.recipe.text':
    'Bruch, Zucker, vielleicht Butter: Kakaoanteil, Fett, Fluss und Preis werden beim Tippen ausgerechnet, für den Bruch, den du wirklich hast.',
  'steps.grind': 'Mahlen und conchieren',
  'steps.grind.text':
    'Füttere die Mühle, wie es der Bildschirm sagt, und miss ab und zu die Körnung. Er lernt deine Mühle und sagt, wann sie fertig ist.',
  'steps.temper': 'Temperieren',
  'steps.temper.text':
    'Wähl eine Art. Eine Zeile sagt, was jetzt zu tun ist; unter der Kurve stehen die Kristalle, geschätzt.',
  'steps.mould': 'Gießen, zählen, etikettieren',
  'steps.mould.text':
    'Gieß, lass fest werden, zähl die Tafeln. Auf dem Etikett stehen Zutaten, Allergene, Füllgewicht und ein Code, der bis zum Sack zurückführt.',
  'steps.taste': 'Die erste Tafel verkosten',
  'steps.taste.text':
    'Sauer, Körnung, Gefallen: dreimal tippen. Was du jetzt schmeckst, davon lernt die nächste Charge.',
  'steps.rest': 'Ruhen lassen',
  'steps.rest.text': 'Blöcke, die einige Wochen ruhen, werden runder. Das Regal sagt, wann.',
  'photo.take': 'Fotografieren',
};
