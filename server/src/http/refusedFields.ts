import type { FieldRule, RefusedField } from '@wunsch/contract';
import { Problem } from './problem.ts';

/** What a check of a body says of one field, with all it knows of it besides. */
export interface Issue {
  path: readonly PropertyKey[];
  code: string;
  message: string;
  [more: string]: unknown;
}

const LENGTHS: Record<string, 'text' | 'list'> = { string: 'text', array: 'list', set: 'list' };

/** The rule behind an issue; nothing where only its sentence tells what is wrong. */
function ruleOf(issue: Issue): FieldRule | undefined {
  const { code, message } = issue;
  switch (code) {
    case 'invalid_type':
      if (/received undefined$/.test(message)) return { is: 'missing' };
      return issue.expected === 'int'
        ? { is: 'not-whole' }
        : { is: 'not-a', expected: String(issue.expected) };
    case 'too_small':
    case 'too_big': {
      const bound = Number(issue.minimum ?? issue.maximum);
      if (!Number.isFinite(bound)) return undefined;
      const of = LENGTHS[String(issue.origin)] ?? 'number';
      return {
        is: code === 'too_small' ? 'too-little' : 'too-much',
        of,
        bound,
        inclusive: issue.inclusive !== false,
      };
    }
    case 'invalid_value':
      return { is: 'not-among', choices: (issue.values as unknown[]).map(String) };
    default:
      return undefined;
  }
}

/** The refusal of a request whose fields are not as they should be: each named, with what would be right. */
export function refusedFields(issues: readonly Issue[]): Problem {
  const errors = issues.map((issue): RefusedField => {
    const rule = ruleOf(issue);
    return { field: issue.path.map(String).join('.'), detail: issue.message, ...(rule && { rule }) };
  });
  const detail = errors.map((e) => (e.field ? `${e.field}: ${e.detail}` : e.detail)).join('; ');
  return new Problem({ status: 422, code: 'not-valid', detail, field: errors[0]?.field, errors });
}
