/** Words of looking back on forecasts. */
export const forecasts = {
  forecasts: 'How good are our forecasts here',
  'forecasts.none': 'Nothing to look back on yet',
  'forecasts.none.text': 'From the fourth batch of a station on, each forecast is held against what came.',
  'forecasts.text':
    'Each forecast is made again from what was known just before, and held against what came. A range is to hold four of five: where it holds fewer it was too sure, where it holds nearly all it was too careful.',
  'forecasts.yield': '{station}: what stays of the mass',
  'forecasts.grit': '{station}: the last grit reading',
  'forecasts.n': '{n, plural, one {# forecast} other {# forecasts}}',
  'forecasts.word.too-few': 'Too few to judge: {n} are needed',
  'forecasts.word.about-right': 'Its range can be trusted',
  'forecasts.word.too-sure': 'Too sure of itself: allow for more',
  'forecasts.word.too-careful': 'More careful than it need be',
  'forecasts.held': '{held} of {n} came out inside the range: {percent} %.',
  'forecasts.sure': 'As far as so many can tell, {low} to {high} % do; 80 % are meant.',
  'forecasts.off': 'Usually off by {off}, {bias} in the middle.',
  'forecasts.points': '{n} % points',
  'forecasts.range': 'range',
  'forecasts.less': 'less came',
  'forecasts.as-said': 'as said',
  'forecasts.more': 'more came',
  'forecasts.alt': '{name}: {held} of {n} inside the range',
} as const;
