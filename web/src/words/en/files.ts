/** Words of what can be taken away as files. */
export const files = {
  files: 'Files',
  'files.tables': 'Whole tables',
  'files.text':
    'Every table as CSV that any spreadsheet or statistics program reads: one row one thing, units in the heading. What is still blind is not among them.',
  'files.lots': 'Lots',
  'files.batches': 'Batches',
  'files.steps': 'Steps',
  'files.movements': 'Weighings',
  'files.stock': 'Parcels, on hand and used up',
  'files.deliveries': 'Deliveries',
  'files.supplies': 'Ingredients and wrapping received',
  'files.observations': 'Notes, tests and readings by hand',
  'files.tastings': 'Tastings',
  'files.cases': 'Faults and complaints',
  'files.plots': 'Plots of all lots, GeoJSON',
  'files.trail': 'Trail',
  'files.makers': 'Whole tables are for owners and makers to take away.',
  'files.whole': 'The whole workshop',
  'files.whole.text':
    'One zip with everything: each table as JSON lines with its schema, photographs and documents as they are, and checksums. It goes back into an empty workshop here, on another machine or on a later release. People’s passwords are in it as hashes only, yet keep it as safe as a key.',
  'files.whole.take': 'Take the archive',
  'files.whole.owners': 'The archive is for owners to take away.',
  putback: 'There is an archive of a workshop already',
  'putback.text':
    'Put it back here: everything returns as it was, photographs too. Sign in afterwards as you did there. An archive of an earlier release is brought up to date.',
  'putback.choose': 'Choose the archive (zip)',
  'putback.sends': '{percent} % sent',
  'putback.checks': 'checked and put back; this can take a few minutes',
  'problem.archive-under-way': 'An archive is being written already. Wait until it is done.',
} as const;
