import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';
import { Id, Text } from './common.ts';

/** What of a bar may be shown to anyone; name, maker, keeping, best before, ingredients and allergens always are. */
export const SHOWN = ['origin', 'growers', 'map', 'ribbon', 'days', 'making', 'people'] as const;
/** See {@link SHOWN}. */
export type Shown = (typeof SHOWN)[number];

/** Switching a recipe's or a batch's public page on or off; the target is its id. A batch's own choice goes before its recipe's. */
export const PagePublish = z.object({
  of: z.enum(['recipe', 'batch']),
  isOn: z.boolean(),
  shows: z.array(z.enum(SHOWN)).max(SHOWN.length).default([]),
  /** A few words of the maker's own. */
  words: Text(2000).default(''),
});
/** See {@link PagePublish}. */
export type PagePublish = z.input<typeof PagePublish>;

/** A page as it is switched. */
export const PageState = z.object({ ...PagePublish.shape, id: Id, at: z.string(), by: z.string() });
/** See {@link PageState}. */
export type PageState = z.infer<typeof PageState>;

/** Pages that bear on a batch: its own choice, its recipe's, and which code opens it, where one does. */
export const BatchPages = z.object({
  batch: PageState.nullable(),
  recipe: PageState.nullable(),
  /** Addresses anyone may open now. */
  addresses: z.array(z.string()),
});
/** See {@link BatchPages}. */
export type BatchPages = z.infer<typeof BatchPages>;

/** Whether somebody wants to be named on public pages; only they themselves can say so. */
export const PersonNamed = z.object({ isNamed: z.boolean() });
/** See {@link PersonNamed}. */
export type PersonNamed = z.input<typeof PersonNamed>;

const Runs = z.array(z.object({ text: z.string(), bold: z.boolean() }));

/** What anyone sees of a bar. What was not chosen is null and has never left the workshop. */
export const PublicBar = z.object({
  name: z.string(),
  code: z.string(),
  maker: z.object({ name: z.string(), address: z.string() }),
  netMass: z.string(),
  /** As on its label, in the language asked for; an allergen is bold. */
  label: z.object({ cacao: Runs, ingredients: Runs, traces: Runs, storage: Runs }),
  bestBefore: z.string().nullable(),
  words: z.string(),
  origin: z
    .array(z.object({ name: z.string(), country: z.string(), region: z.string(), harvest: z.string() }))
    .nullable(),
  growers: z.array(z.string()).nullable(),
  /** Longitude and latitude of the middle of each origin's plots, to a tenth of a degree. */
  map: z.array(z.tuple([z.number(), z.number()])).nullable(),
  /** What 100 g of beans came to after each station, and what was lost there, g. */
  ribbon: z.array(z.object({ station: z.enum(STATIONS), grams: z.number(), lost: z.number() })).nullable(),
  days: z.array(z.object({ station: z.enum(STATIONS), day: z.string() })).nullable(),
  making: z.object({ gritUm: z.number().nullable(), doseMinutes: z.number().nullable() }).nullable(),
  people: z.array(z.string()).nullable(),
});
/** See {@link PublicBar}. */
export type PublicBar = z.infer<typeof PublicBar>;
