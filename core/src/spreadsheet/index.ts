export {
  FIELDS,
  fieldOf,
  MOST_ROWS,
  TABLE_KINDS,
  type Field,
  type FieldType,
  type TableKind,
} from './fields.ts';
export { guessKind, guessMapping, withFigures, type Cell, type Column, type Mapping } from './guess.ts';
export {
  readTable,
  type ReadingOf,
  type ReadRow,
  type ReadTable,
  type Trouble,
  type Unreadable,
} from './read.ts';
