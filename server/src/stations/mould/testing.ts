import { v7 } from 'uuid';
import type { LabelView } from '@wunsch/contract';
import type { Maker } from '../../testing/workshop.ts';

/** Chocolate of nibs, sugar and what else is given, in the bowl: its open tempering. */
export async function tempering(
  maker: Maker,
  code: string,
  more: readonly (readonly [key: string, mass: number])[] = [],
): Promise<{ batchId: string; temper: string }> {
  const lot = await maker.lot(code, 20, { material: 'nibs', country: 'Fiji', harvest: '2025' });
  const batchId = await maker.batch(`${code}-01`, lot.id);
  const grind = await maker.step(batchId, 'grind');
  await maker.take(grind, lot.parcelId, 7);
  for (const [key, mass] of [['cane-sugar', 3], ...more] as const) await maker.weigh(grind, key, mass);
  const chocolate = await maker.make(grind, 'chocolate', null);
  await maker.close(grind);
  const temper = await maker.step(batchId, 'temper');
  await maker.take(temper, chocolate.parcelId, null);
  return { batchId, temper };
}

/** Ends a tempering with all that is in it; the parcel of it. */
export async function outOfTheBowl({ shop }: Maker, temper: string): Promise<string> {
  const parcelId = v7();
  const body = { movementId: v7(), parcelId, remainder: null, remainderId: v7() };
  await shop.send('PUT', `/api/steps/${temper}/tempered`, body);
  return parcelId;
}

/** Counted pieces of so many mg each, as a moulding makes them. */
export const made = (count: number, each: number, material = 'bars') => ({
  material,
  count,
  massMg: count * each,
  movementId: v7(),
  parcelId: v7(),
});

/** A label with the words of its sides instead of their drawings. */
export async function labelOf({ shop }: Maker, parcelId: string, query = ''): Promise<LabelView> {
  const view = (await shop.send('GET', `/api/labels/${parcelId}${query}`)).body as LabelView;
  const said = (svg: string) =>
    [...svg.matchAll(/<text[^>]*>([^<]*)</g)].map(([, text]) => text!.trim()).join(' ');
  return { ...view, front: said(view.front), back: view.back && said(view.back) };
}
