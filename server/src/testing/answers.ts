import { createHash } from 'node:crypto';
import type { App } from '../http/types.ts';

/** Lists whose every row is asked for by its id as well. */
const WITH_IDS = ['/api/batches?limit=500', '/api/lots'];

/** Addresses that tell of the whole workshop. */
const WHOLE = [
  '/api/bench',
  '/api/stock',
  '/api/ingredients',
  '/api/recipes',
  '/api/supplies',
  '/api/machines',
  '/api/people',
  '/api/trials',
  '/api/tasting-sessions',
  '/api/tasted-batches',
  '/api/retastes',
  '/api/attachments',
  '/api/winnowings',
  '/api/sortings',
  '/api/conches',
  '/api/samples',
  '/api/traps',
  '/api/set-aside',
  '/api/trail?limit=200',
];

/** The moment the Bench was asked for, with which its answer begins; and the number of the last entry, which may be a sign-in. */
const PASSING = /^\{"at":"[^"]*"|"lastSeq":\d+/g;

/** Fingerprints of what a workshop answers at every address a page reads, to be compared with those of a copy of it. */
export async function answersOf(app: App, cookie: string): Promise<Record<string, string>> {
  const answers: Record<string, string> = {};
  const ask = async (url: string) => {
    const answer = await app.inject({ url, headers: { host: 'localhost:4310', cookie } });
    answers[url] =
      `${answer.statusCode} ${createHash('sha256').update(answer.body.replaceAll(PASSING, '')).digest('hex')}`;
    return answer;
  };
  for (const url of WHOLE) await ask(url);
  for (const url of WITH_IDS) {
    const rows = (await ask(url)).json() as { id: string }[];
    for (const { id } of rows) await ask(`${url.split('?')[0]}/${id}`);
  }
  return answers;
}
