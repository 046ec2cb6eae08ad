/** Words of the next trial of a lot. */
export const next = {
  'next.title': 'Next trial',
  'next.text': 'What to turn in the next batch of a lot, from everything that was tasted.',
  'next.none.title': 'Nothing tasted yet',
  'next.none':
    'As soon as a batch with a roast, a grind or a recipe has been tasted, what to try next stands here.',
  'next.lot': '{name}, {n, plural, one {# tasted batch} other {# tasted batches}}',
  'next.all-fixed': 'Everything is kept as it is, so there is nothing to advise on. Let one of them go free.',
  'next.verdict.try': 'Worth a batch',
  'next.verdict.try.text': 'Set the next batch as at the side; what is hardly worth turning stays as it was.',
  'next.verdict.stop': 'Good as it is',
  'next.verdict.stop.text':
    'The best batch so far is most likely as good as this lot gets here. Make it again.',
  'next.verdict.learn': 'Worth learning from',
  'next.verdict.learn.text':
    'The likeliest best has been made already. This batch asks where it might be better still; it may well be a little less liked.',
  'next.verdict.unknown': 'Not known yet',
  'next.verdict.unknown.text':
    'It may be better or not: tasting what is here with more people would tell as much as another batch.',
  'next.gain': '{gain} ± {sd} in liking',
  'next.near': 'Chance that the best so far is within 0.3 of the best there is: {chance}',
  'next.best': 'Best so far, by all that is known:',
  'next.settings': 'The next batch',
  'next.legend':
    'Box: where it is best, four times of five. Dots: what was tried, the best of them full. Line: what comes next.',
  'next.legend.can': 'The bracket below: what can be done here.',
  'next.can': 'What can be done here',
  'next.can.text':
    'The next trial is never proposed beyond it: no finer than your mills grind, no longer than one may run, no darker than you want to roast. Left empty, an end is where it stops making sense.',
  'next.can.from': 'From',
  'next.can.to': 'To',
  'next.can.falls': 'This end lies below the other.',
  'next.can.been': 'Tasted so far: {low} to {high}.',
  'next.can.keep': 'Keep to this',
  'next.range': 'believed best between {low} and {high}',
  'next.fix': 'keep as it is',
  'next.split':
    'Draw a part of the batch off otherwise: {factor} {to}. Tasted side by side, that tells most.',
  'next.factor.dose': 'Roast dose',
  'next.factor.acid': 'Acid the roast leaves',
  'next.factor.sugar': 'Sugar',
  'next.factor.grit': 'Grit',
  'next.factor.conche': 'Hours in grinder and conche',
  'next.said.sour.much': '{n} of {of} found {code} too sour',
  'next.said.sour.little': '{n} of {of} found {code} flat, with too little sourness',
  'next.said.bitter.much': '{n} of {of} found {code} too bitter',
  'next.said.bitter.little': '{n} of {of} found {code} too mild',
  'next.said.sweet.much': '{n} of {of} found {code} too sweet',
  'next.said.sweet.little': '{n} of {of} found {code} not sweet enough',
  'next.rests':
    'From the tastings of this lot{n, plural, =0 {} one { and of one batch of others} other { and of # batches of others}}, with what the trade knows of each step. Your tongue decides.',
} as const;
