import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { LabelType } from '@wunsch/core/print';

const require = createRequire(import.meta.url);

/** Files of the label's type, those for most signs first. */
const SUBSETS = ['latin', 'latin-ext', 'vietnamese'] as const;

let type: LabelType | null = null;

/** The type labels are set in, read once. */
export function labelType(): LabelType {
  type ??= new LabelType(
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
  return type;
}
