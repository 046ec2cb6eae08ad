import { z } from 'zod';

/** Pieces of something counted. */
export const Pieces = z.int().positive().max(10_000_000);

/** Most parcels one act may name. */
export const MOST = 200;
