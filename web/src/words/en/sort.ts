/** Words of sorting. */
export const sort = {
  'sort.begin': 'Begin sorting',
  'sort.begin.text':
    'Weigh beans in. The clock runs from the first weight; rejects are noted by reason, and the sorted beans weighed out.',
  'sort.in': 'Weigh beans in',
  'sort.in.mass': 'Beans in',
  'sort.out': 'Weigh sorted beans',
  'sort.rejects': 'Rejects',
  'sort.rejects.hint': 'Tap a reason, enter the weight',
  'sort.rejected': 'Rejected',
  'sort.clock': 'This session',
  'sort.pace': 'Pace',
  'sort.cost': 'Rejects cost',
  'sort.close': 'Finish sorting',
} as const;
