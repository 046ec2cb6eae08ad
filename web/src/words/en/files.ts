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
} as const;
