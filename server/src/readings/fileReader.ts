import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import Piscina from 'piscina';
import {
  parseTemperatureFile,
  type TemperatureFileOptions,
  type TemperatureFile,
} from '@wunsch/core/readings';

/** Shorter files are read at once: a thread costs more. */
const SHORT = 50_000;

/** The thread's script, beside the built server or from its sources; null where nothing has been built. */
function script(): string | null {
  const places = ['./parseFile.js', '../../server/dist/parseFile.js', '../../dist/parseFile.js'];
  return places.map((p) => fileURLToPath(new URL(p, import.meta.url))).find((p) => existsSync(p)) ?? null;
}

let pool: Piscina | null = null;

/**
 * Reads a file of temperatures on a thread of its own, so that the server answers others meanwhile.
 *
 * @param text at most some megabytes; the caller limits it
 */
export async function readFileOfTemperatures(
  text: string,
  options: TemperatureFileOptions,
): Promise<TemperatureFile> {
  const filename = text.length > SHORT ? script() : null;
  if (filename === null) return parseTemperatureFile(text, options);
  pool ??= new Piscina({ filename, minThreads: 0, maxThreads: 1, idleTimeout: 10_000 });
  return (await pool.run({ text, options })) as TemperatureFile;
}
