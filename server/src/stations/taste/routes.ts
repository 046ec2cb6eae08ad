import { TastingPut } from '@wunsch/contract';
import type { App } from '../../app.ts';
import { Answer, answer, IdParams, write } from '../../routes.ts';

/** Tastings. */
export function tasteRoutes(app: App): void {
  app.put(
    '/api/tastings/:id',
    {
      schema: {
        tags: ['taste'],
        summary: 'One person’s tasting of a batch',
        params: IdParams,
        body: TastingPut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'tasting.add', request.params.id, request.body),
      ),
  );
}
