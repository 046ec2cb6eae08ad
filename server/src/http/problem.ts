import type { ProblemCode, Problem as ProblemBody, RefusedField } from '@wunsch/contract';

/** A refusal with everything the reader needs to mend the request (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly code: ProblemCode;
  readonly field: string | undefined;
  readonly params: Record<string, unknown> | undefined;
  readonly errors: RefusedField[] | undefined;

  constructor(options: {
    status: number;
    code: ProblemCode;
    detail: string;
    field?: string;
    params?: Record<string, unknown>;
    errors?: RefusedField[];
  }) {
    super(options.detail);
    this.name = 'Problem';
    this.status = options.status;
    this.code = options.code;
    this.field = options.field;
    this.params = options.params;
    this.errors = options.errors;
  }

  /** The body sent as application/problem+json. */
  body(): ProblemBody {
    return {
      type: `urn:wunsch:problem:${this.code}`,
      title: this.code.replaceAll('-', ' '),
      status: this.status,
      detail: this.message,
      code: this.code,
      ...(this.field !== undefined && { field: this.field }),
      ...(this.params && { params: this.params }),
      ...(this.errors && { errors: this.errors }),
    };
  }
}

/** 404 for a thing that is not there. */
export function notFound(what: string, id: string): Problem {
  return new Problem({
    status: 404,
    code: 'not-found',
    detail: `there is no ${what} ${id}`,
    params: { what, id },
  });
}
