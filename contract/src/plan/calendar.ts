import { z } from 'zod';
import { Id } from '../common.ts';

/** A private address a calendar may subscribe to; the token itself is made by the browser and shown once. */
export const CalendarAddressPut = z.object({
  personId: Id,
  tokenHash: z.string().regex(/^[0-9a-f]{64}$/),
});
/** See {@link CalendarAddressPut}. */
export type CalendarAddressPut = z.input<typeof CalendarAddressPut>;

/** Revoking such an address. */
export const CalendarAddressEnd = z.object({ addressId: Id });

/** A calendar address of somebody, without its token. */
export const CalendarAddress = z.object({ id: Id, personId: Id, createdAt: z.string() });
