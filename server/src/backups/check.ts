import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import Piscina from 'piscina';
import openArchive from './openArchive.ts';

/** The thread's script, beside the built server or from its sources; null where nothing has been built. */
function script(): string | null {
  const places = ['./openArchive.js', '../../server/dist/openArchive.js', '../../dist/openArchive.js'];
  return places.map((p) => fileURLToPath(new URL(p, import.meta.url))).find((p) => existsSync(p)) ?? null;
}

/** Opens an archive on a thread of its own, so that the server answers others meanwhile. See {@link openArchive}. */
export async function checkArchive(path: string): Promise<number> {
  const filename = script();
  if (filename === null) return openArchive({ path });
  const pool = new Piscina({ filename, minThreads: 0, maxThreads: 1 });
  try {
    return (await pool.run({ path })) as number;
  } finally {
    await pool.destroy();
  }
}
