import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import createClient from 'openapi-fetch';
import openapiTS, { astToString } from 'openapi-typescript';
import ts from 'typescript';
import { v7 } from 'uuid';
import { openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

/** What a stranger would write against the generated types: each call as the pages make it. */
const RIGHT = `
import createClient from 'openapi-fetch';
import type { paths } from './api.d.ts';
const client = createClient<paths>({ baseUrl: 'http://127.0.0.1' });
export async function work(id: string): Promise<number> {
  const signed = await client.POST('/api/session', { body: { name: 'Ada', password: 'a long password' } });
  const initials: string | undefined = signed.data?.initials;
  const made = await client.PUT('/api/lots/{id}', {
    params: { path: { id } },
    body: { code: 'GEN', name: 'Generated', massMg: 5_000_000, receivedOn: '2026-11-26', stepId: id, movementId: id, parcelId: id },
  });
  const stock = await client.GET('/api/stock-items');
  const masses: number[] = (stock.data ?? []).map((s) => s.remainingMg);
  return masses.length + (initials ?? '').length + (made.response.ok ? 1 : 0);
}
`;

/** The same with one slip each, which the description must be sharp enough to refuse. */
const WRONG: readonly [from: string, to: string][] = [
  [`massMg: 5_000_000`, `massMg: 'five kilos'`],
  [`receivedOn: '2026-11-26', `, ``],
  [`'/api/stock-items'`, `'/api/stock-item'`],
  [`s.remainingMg`, `s.remainingKg`],
];

describe('a client generated from the published description', () => {
  let shop: TestWorkshop;
  // Beside the packages, so that it finds the ones it imports.
  const folder = mkdtempSync(fileURLToPath(new URL('../../../node_modules/.client-', import.meta.url)));
  beforeAll(async () => {
    shop = await openWorkshop();
    const description = (await shop.send('GET', '/api/openapi.json')).body as Parameters<typeof openapiTS>[0];
    writeFileSync(join(folder, 'api.d.ts'), astToString(await openapiTS(description)));
  });
  afterAll(async () => {
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  });

  /** What the compiler has to say of programs written against the types, by their names. */
  function complaints(programs: ReadonlyMap<string, string>): Map<string, string[]> {
    const paths = [...programs].map(([name, program]) => {
      const path = join(folder, `${name}.ts`);
      writeFileSync(path, program);
      return path;
    });
    const compiled = ts.createProgram(paths, {
      strict: true,
      noEmit: true,
      skipLibCheck: true,
      allowImportingTsExtensions: true,
      target: ts.ScriptTarget.ES2022,
      module: ts.ModuleKind.ESNext,
      moduleResolution: ts.ModuleResolutionKind.Bundler,
      lib: ['lib.es2022.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
      types: [],
    });
    const said = new Map([...programs.keys()].map((name) => [name, [] as string[]]));
    for (const d of ts.getPreEmitDiagnostics(compiled)) {
      const name = basename(d.file?.fileName ?? '', '.ts');
      said.get(name)?.push(ts.flattenDiagnosticMessageText(d.messageText, '\n'));
    }
    return said;
  }

  test('compiles, and a slip in a body, a path or an answer does not', () => {
    for (const [from] of WRONG) expect(RIGHT).toContain(from);
    const wrong = WRONG.map(([from, to], k): [string, string] => [`wrong${k}`, RIGHT.replace(from, to)]);
    const said = complaints(new Map([['right', RIGHT], ...wrong]));
    expect(said.get('right')).toEqual([]);
    for (const [name] of wrong)
      expect({ name, said: said.get(name)!.length > 0 }).toEqual({ name, said: true });
  }, 120_000);

  test('works: it signs in, receives a lot, reads it on the stock, and is refused in words', async () => {
    await shop.app.listen({ port: 0, host: '127.0.0.1' });
    const address = shop.app.server.address();
    const port = typeof address === 'object' && address ? address.port : 0;
    const client = createClient<any>({
      baseUrl: `http://127.0.0.1:${port}`,
      headers: { cookie: shop.cookie },
    });
    const [id, parcelId] = [v7(), v7()];
    const body = { code: 'GEN', name: 'Generated', massMg: 5_000_000, receivedOn: '2026-11-26' };
    const put = (massMg: number) =>
      client.PUT('/api/lots/{id}', {
        params: { path: { id } },
        body: { ...body, massMg, stepId: v7(), movementId: v7(), parcelId },
      });
    const refused = await put(-1);
    expect(refused.response.status).toBe(422);
    expect((refused.error as { code: string }).code).toBeTruthy();
    expect((await put(5_000_000)).response.status).toBe(201);
    const { data } = await client.GET('/api/stock-items', {});
    expect((data as { id: string; remainingMg: number }[]).find((s) => s.id === parcelId)?.remainingMg).toBe(
      5_000_000,
    );
  });
});
