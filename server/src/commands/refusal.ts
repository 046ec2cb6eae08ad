import type { ProblemCode } from '@wunsch/contract';
import { Problem } from '../http/problem.ts';

/** What a database refuses, by SQLSTATE (PostgreSQL manual, appendix A), as a refusal the reader can mend. */
const REFUSALS: Readonly<Record<string, { status: number; code: ProblemCode; detail: string }>> = {
  '23505': {
    status: 409,
    code: 'id-used',
    detail: 'one of the ids of this entry already names another thing; make new ids',
  },
  '23514': { status: 409, code: 'below-zero', detail: 'this would take more than there is' },
  '22003': { status: 422, code: 'out-of-range', detail: 'a number of this entry is larger than can be kept' },
  '22008': { status: 422, code: 'out-of-range', detail: 'a time of this entry is outside what can be kept' },
  '22007': { status: 422, code: 'not-storable', detail: 'a time of this entry is not one' },
  '22021': {
    status: 422,
    code: 'not-storable',
    detail: 'a text of this entry holds characters that cannot be kept',
  },
  '22P02': {
    status: 422,
    code: 'not-storable',
    detail: 'an id or value of this entry is not of the right form',
  },
  '22P05': {
    status: 422,
    code: 'not-storable',
    detail: 'a text of this entry holds characters that cannot be kept',
  },
};

/** The refusal behind an error of the database, where the entry was at fault; the error itself otherwise. */
export function asRefusal(error: unknown): unknown {
  if (error instanceof Problem) return error;
  for (let e = error, depth = 0; e instanceof Error && depth < 6; e = e.cause, depth += 1) {
    const known = REFUSALS[(e as { code?: string }).code ?? ''];
    if (known) return new Problem(known);
  }
  return error;
}
