import { LotSheet, readFacts, Tasting, WorkshopPut } from '@wunsch/contract';
import { sheetAllergens } from '@wunsch/core/label';
import type { z } from 'zod';

/** Settings as a page needs them, over what is usual for a setting that an older release did not know. */
export function readSettings(stored: unknown): z.output<typeof WorkshopPut> {
  const usual = WorkshopPut.parse({
    name: '–',
    shape: 'shop',
    currency: 'EUR',
    temperatureUnit: '°C',
    massSystem: 'metric',
  });
  return readFacts(WorkshopPut, stored, usual);
}

/** A stored sheet of what was made elsewhere, over what is usual for a line an older release did not know; null where there is none. */
export function readSheet(stored: unknown): LotSheet | null {
  return stored === null || stored === undefined ? null : readFacts(LotSheet, stored, LotSheet.parse({}));
}

/** Allergens a lot’s sheet tells of; none where there is no sheet. */
export const allergensOf = (sheet: LotSheet | null): string[] => (sheet ? sheetAllergens(sheet) : []);

/** A stored card; null for one that cannot be understood. */
export function readCard(stored: unknown): Tasting['card'] | null {
  const read = Tasting.shape.card.safeParse(stored);
  return read.success ? read.data : null;
}
