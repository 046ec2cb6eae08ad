import { z } from 'zod';
import { CaseBrief, CaseView, FaultTableView, FaultView, Id, Reminder } from '@wunsch/contract';
import { CLUES, SIGNS, type Clue } from '@wunsch/core/faults';
import { IdParams } from '../http/entries.ts';
import type { App } from '../http/types.ts';
import { caseView, loadCases, loadReminders } from './cases.ts';
import { faultsOf } from './faults.ts';
import { faultTableView } from './faultTable.ts';

/** Names with commas between, each one of a list; empty for none. */
const namesOf = <T extends string>(names: readonly [T, ...T[]]) =>
  z
    .string()
    .max(2000)
    .default('')
    .transform((text) => text.split(',').filter(Boolean))
    .pipe(z.array(z.enum(names)));

const FaultQuery = z
  .object({
    signs: namesOf(SIGNS).describe('what is seen, commas between'),
    yes: namesOf(CLUES).describe('what somebody says is so'),
    no: namesOf(CLUES).describe('what somebody says is not so'),
    code: z.string().max(60).default('').describe('the code on the bar, where it is known'),
  })
  .superRefine(({ yes, no }, context) => {
    const both = (yes as Clue[]).find((c) => (no as Clue[]).includes(c));
    if (both)
      context.addIssue({ code: 'custom', path: ['no'], message: `${both} cannot be both so and not so` });
  });

const answersOf = ({ yes, no }: { yes: Clue[]; no: Clue[] }): Partial<Record<Clue, boolean>> =>
  Object.fromEntries([...yes.map((c) => [c, true]), ...no.map((c) => [c, false])]);

/** Faults, complaints and reminders. */
export function caseRoutes(app: App): void {
  const tags = ['cases'];
  app.get(
    '/api/batches/:id/faults',
    {
      schema: {
        tags,
        summary: 'What a batch’s record says of a fault of its bars, and the causes by their odds',
        params: IdParams,
        querystring: FaultQuery,
        response: { 200: FaultView },
      },
    },
    async (request) => {
      await request.store.writer.settleStream();
      return faultsOf(request.store, request.params.id, {
        signs: request.query.signs,
        clues: answersOf(request.query),
        code: request.query.code,
      });
    },
  );
  app.get(
    '/api/faults',
    {
      schema: {
        tags,
        summary: 'Causes of a fault by their odds, of a bar without a record',
        querystring: FaultQuery,
        response: { 200: FaultView },
      },
    },
    (request) =>
      faultsOf(request.store, null, { signs: request.query.signs, clues: answersOf(request.query) }),
  );
  app.get(
    '/api/fault-table',
    {
      schema: {
        tags,
        summary:
          'What the odds of causes rest on: as written, as the workshop said, and as its closed cases moved it',
        response: { 200: FaultTableView },
      },
    },
    (request) => faultTableView(request.store.db),
  );
  app.get(
    '/api/cases',
    {
      schema: {
        tags,
        summary: 'Faults and complaints, newest first',
        querystring: z.object({ batchId: Id.optional() }),
        response: { 200: z.array(CaseBrief) },
      },
    },
    (request) => loadCases(request.store.db, request.query.batchId),
  );
  app.get(
    '/api/cases/:id',
    { schema: { tags, summary: 'One case', params: IdParams, response: { 200: CaseView } } },
    async (request) => {
      await request.store.writer.settleStream();
      return caseView(request.store, request.params.id);
    },
  );
  app.get(
    '/api/reminders',
    {
      schema: {
        tags,
        summary: 'What stations are still to be reminded of',
        response: { 200: z.array(Reminder) },
      },
    },
    (request) => loadReminders(request.store.db),
  );
}
