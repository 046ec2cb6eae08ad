import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { LabelType } from '@wunsch/core/print';

const require = createRequire(import.meta.url);

/** Files of the label's type, those for most signs first. */
const SUBSETS = ['latin', 'latin-ext', 'vietnamese'] as const;

/** What paper is made with. */
export interface Press {
  print: typeof import('@wunsch/core/print');
  /** The type labels are set in. */
  type: LabelType;
}

let made: Promise<Press> | null = null;

async function make(): Promise<Press> {
  const print = await import('@wunsch/core/print');
  const type = new print.LabelType(
    [400, 700].flatMap((weight) =>
      SUBSETS.map((subset) => ({
        bold: weight === 700,
        bytes: new Uint8Array(
          readFileSync(
            require.resolve(
              `@fontsource/hanken-grotesk/files/hanken-grotesk-${subset}-${weight}-normal.woff`,
            ),
          ),
        ),
      })),
    ),
  );
  return { print, type };
}

/** See {@link Press}; some megabytes of programs and fonts, read when something is first printed, so that the server opens sooner. */
export const press = (): Promise<Press> => (made ??= make());
