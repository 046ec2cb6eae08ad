/** Worte des nächsten Versuchs eines Loses. */
export const next = {
  'next.title': 'Nächster Versuch',
  'next.text': 'Woran bei der nächsten Charge eines Loses zu drehen ist, aus allem, was verkostet wurde.',
  'next.none.title': 'Noch nichts verkostet',
  'next.none':
    'Sobald eine Charge mit Röstung, Vermahlung oder Rezept verkostet ist, steht hier, was als Nächstes zu versuchen ist.',
  'next.lot': '{name}, {n, plural, one {# verkostete Charge} other {# verkostete Chargen}}',
  'next.all-fixed': 'Alles bleibt, wie es ist, also gibt es nichts zu raten. Gib etwas frei.',
  'next.verdict.try': 'Eine Charge wert',
  'next.verdict.try.text':
    'Stell die nächste Charge wie daneben ein; woran zu drehen sich kaum lohnt, bleibt.',
  'next.verdict.stop': 'Gut, wie sie ist',
  'next.verdict.stop.text':
    'Die beste Charge bisher ist sehr wahrscheinlich so gut, wie dieses Los hier wird. Mach sie wieder so.',
  'next.verdict.learn': 'Zum Lernen',
  'next.verdict.learn.text':
    'Das wohl Beste ist schon gemacht. Diese Charge fragt, wo es noch besser sein könnte; sie kann auch etwas weniger gefallen.',
  'next.verdict.unknown': 'Noch nicht bekannt',
  'next.verdict.unknown.text':
    'Es kann besser werden oder nicht: was da ist mit mehr Leuten zu verkosten, sagt so viel wie noch eine Charge.',
  'next.gain': '{gain} ± {sd} im Gefallen',
  'next.near':
    'Wahrscheinlichkeit, dass die beste bisher höchstens 0,3 unter der besten möglichen liegt: {chance}',
  'next.best': 'Die beste bisher, nach allem, was bekannt ist:',
  'next.settings': 'Die nächste Charge',
  'next.legend':
    'Kasten: wo es am besten ist, in vier von fünf Fällen. Punkte: was versucht wurde, der beste voll. Strich: was als Nächstes kommt.',
  'next.legend.can': 'Die Klammer darunter: was hier geht.',
  'next.can': 'Was hier geht',
  'next.can.text':
    'Darüber hinaus wird nie etwas vorgeschlagen: nicht feiner, als eure Mühlen mahlen, nicht länger, als eine laufen darf, nicht dunkler, als ihr rösten wollt. Ein leeres Ende ist dort, wo es keinen Sinn mehr hat.',
  'next.can.from': 'Von',
  'next.can.to': 'Bis',
  'next.can.falls': 'Dieses Ende liegt unter dem anderen.',
  'next.can.been': 'Bisher verkostet: {low} bis {high}.',
  'next.can.keep': 'Dabei bleiben',
  'next.range': 'am besten wohl zwischen {low} und {high}',
  'next.fix': 'so lassen',
  'next.split':
    'Lass einen Teil der Charge anders ab: {factor} {to}. Nebeneinander verkostet sagt das am meisten.',
  'next.factor.dose': 'Röstdosis',
  'next.factor.acid': 'Säure, die die Röstung lässt',
  'next.factor.sugar': 'Zucker',
  'next.factor.grit': 'Feinheit',
  'next.factor.conche': 'Stunden in Mühle und Conche',
  'next.said.sour.much': '{n} von {of} fanden {code} zu sauer',
  'next.said.sour.little': '{n} von {of} fanden {code} flach, mit zu wenig Säure',
  'next.said.bitter.much': '{n} von {of} fanden {code} zu bitter',
  'next.said.bitter.little': '{n} von {of} fanden {code} zu mild',
  'next.said.sweet.much': '{n} von {of} fanden {code} zu süß',
  'next.said.sweet.little': '{n} von {of} fanden {code} nicht süß genug',
  'next.rests':
    'Aus den Verkostungen dieses Loses{n, plural, =0 {} one { und einer Charge anderer} other { und # Chargen anderer}}, mit dem, was das Handwerk von jedem Schritt weiß. Eure Zunge entscheidet.',
} as const;
