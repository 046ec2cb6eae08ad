import { archiveOf, restoreArchive } from '../archive/directory.ts';
import { backUp, restore } from './backup.ts';
import { moveWorkshop } from './move.ts';

const USAGE = `npm run backup  -- <folder for backups> [data directory]
npm run archive -- <new file.zip> [data directory | postgres://…]
npm run restore -- <backup | archive.zip> [data directory | postgres://… for an archive]
npm run move    -- <data directory | postgres://…> <postgres://… | new data directory>
The data directory is data/workshop, or WUNSCH_DATA, where none is named.`;

const usual = process.env.WUNSCH_DATA?.trim() || 'data/workshop';
const [, , task, first, second] = process.argv;

async function run(): Promise<string> {
  if (!first) throw new Error(USAGE);
  if (task === 'backup') {
    const { path, lastSeq } = await backUp(second ?? usual, first);
    return `backed up to ${path}: ${lastSeq} entries`;
  }
  if (task === 'archive') {
    const { lastSeq, tables } = await archiveOf(second ?? usual, first);
    return `archived to ${first}: ${lastSeq} entries, ${tables.reduce((n, t) => n + t.rows, 0)} rows`;
  }
  if (task === 'restore' && first.endsWith('.zip')) {
    const { lastSeq, madeAt } = await restoreArchive(first, second ?? usual);
    return `the archive of ${madeAt} was put into ${second ?? usual}: ${lastSeq} entries`;
  }
  if (task === 'restore') {
    const { lastSeq, setAside } = await restore(first, second ?? usual);
    return `put back into ${second ?? usual}: ${lastSeq} entries${setAside ? `, ${setAside} set aside` : ''}`;
  }
  if (task === 'move' && second) {
    const { rows, lastSeq } = await moveWorkshop(first, second);
    return `copied ${rows} rows, ${lastSeq} entries; the source was left as it is`;
  }
  throw new Error(USAGE);
}

try {
  console.log(await run());
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
}
