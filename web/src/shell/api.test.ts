import { ApiProblem, request, ServerAway } from './api.ts';

const answer = (status: number, body: string) => {
  globalThis.fetch = () => Promise.resolve(new Response(body, { status }));
  return request('PUT', '/api/movements/x', {});
};
const page = '<!doctype html><title>Welcome to our guest network</title>';

test('an answer of ours is read, an empty one is null', async () => {
  await expect(answer(201, '{"seq":4}')).resolves.toEqual({ seq: 4 });
  await expect(answer(201, '')).resolves.toBeNull();
});

test('what is refused says why', async () => {
  const refused = answer(409, JSON.stringify({ status: 409, code: 'oversubscribed', detail: 'only 2 kg' }));
  await expect(refused).rejects.toMatchObject({ problem: { code: 'oversubscribed' }, message: 'only 2 kg' });
});

test.each([
  [200, page],
  [500, page],
  [502, page],
  [503, '{"code":"opening"}'],
  [504, page],
  [408, ''],
  [201, '{"seq":'],
])(
  '%d with “%s” was answered by somebody else, or not to its end: the server counts as away',
  async (status, body) => expect(answer(status, body)).rejects.toBeInstanceOf(ServerAway),
);

test('an answer that breaks off is none', async () => {
  globalThis.fetch = () => {
    const body = new ReadableStream({
      start(stream) {
        stream.enqueue(new TextEncoder().encode('{"seq"'));
        stream.error(new TypeError('terminated'));
      },
    });
    return Promise.resolve(new Response(body, { status: 201 }));
  };
  await expect(request('PUT', '/api/movements/x', {})).rejects.toBeInstanceOf(ServerAway);
});

test('what somebody in between turns down is a refusal, and not tried for ever', async () => {
  const refused = answer(413, page);
  await expect(refused).rejects.toBeInstanceOf(ApiProblem);
  await expect(refused).rejects.toMatchObject({ problem: { status: 413, code: 'refused-on-the-way' } });
});
