import { z } from 'zod';
import type { FieldRule } from '@wunsch/contract';
import { v7 } from 'uuid';
import { openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { refusedFields, type Issue } from './refusedFields.ts';

/** The rules told of a value that does not fit a schema. */
const rulesOf = (schema: z.ZodType, value: unknown) =>
  refusedFields(schema.safeParse(value).error!.issues as unknown as Issue[]).errors!.map((e) => e.rule);

test.each<[string, z.ZodType, unknown, FieldRule | undefined]>([
  ['nothing where something is needed', z.object({ a: z.string() }), {}, { is: 'missing' }],
  ['null is there', z.object({ a: z.string() }), { a: null }, { is: 'not-a', expected: 'string' }],
  ['no whole number', z.int(), 1.5, { is: 'not-whole' }],
  ['too little', z.number().min(0.5), 0.4, { is: 'too-little', of: 'number', bound: 0.5, inclusive: true }],
  ['not more than', z.number().positive(), 0, { is: 'too-little', of: 'number', bound: 0, inclusive: false }],
  ['too long', z.string().max(2), 'abc', { is: 'too-much', of: 'text', bound: 2, inclusive: true }],
  ['too few', z.array(z.int()).min(1), [], { is: 'too-little', of: 'list', bound: 1, inclusive: true }],
  ['no choice', z.enum(['a', 'b']), 'c', { is: 'not-among', choices: ['a', 'b'] }],
  ['a sentence of its own', z.int().refine((n) => n % 2 === 0, 'must be even'), 3, undefined],
])('the rule behind a refusal: %s', (_, schema, value, wanted) =>
  expect(rulesOf(schema, value)).toEqual([wanted]),
);

test('every field is named with its path', () => {
  const { errors, field, message } = refusedFields(
    z
      .object({ rows: z.array(z.object({ code: z.string().min(1) })) })
      .safeParse({ rows: [{ code: 'a' }, { code: '' }] }).error!.issues as unknown as Issue[],
  );
  expect(errors!.map((e) => e.field)).toEqual(['rows.1.code']);
  expect(field).toBe('rows.1.code');
  expect(message).toMatch(/^rows\.1\.code: /);
});

describe('over the wire', () => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop();
  });
  afterAll(() => shop.close());

  test('bodies and queries alike', async () => {
    const body = await shop.send('PUT', `/api/batches/${v7()}`, { code: '' });
    expect(body).toMatchObject({ status: 422, body: { code: 'not-valid' } });
    expect(body.body.errors.find((e: { field: string }) => e.field === 'code').rule).toEqual({
      is: 'too-little',
      of: 'text',
      bound: 1,
      inclusive: true,
    });
    const query = await shop.send('GET', '/api/batches?limit=-1');
    expect(query).toMatchObject({ status: 422, body: { code: 'not-valid' } });
    expect(query.body.errors[0].rule.is).toBe('too-little');
  });
});
