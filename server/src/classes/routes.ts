import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import { ClassBrief, ClassSeat, ClassView, GuestChoice, GuestScore, GUEST_CODE } from '@wunsch/contract';
import { dayOf } from '@wunsch/core/plan';
import { AskedDesign, designOf, press, saying } from '../stations/mould/index.ts';
import { IdParams } from '../http/entries.ts';
import { LanguageQuery, sendPdf } from '../http/paper.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { guestCards, hostSheet } from './paper.ts';
import { loadClass, seatsOf } from './load.ts';
import { seatByCode, seatView } from './seat.ts';
import { classView, loadClasses, viewOf } from './view.ts';

/** Most looks at guests’ own addresses, and choices made there, of one address in a minute. */
const KNOCKS = { max: 40, timeWindow: 60_000 };

const Code = z.object({ code: z.string().trim().max(40) });

const originOf = (request: FastifyRequest) => `${request.protocol}://${request.host}`;

/** Classes, for those who hold them. */
export function classRoutes(app: App): void {
  const tags = ['classes'];
  app.get(
    '/api/classes',
    { schema: { tags, summary: 'Classes, newest first', response: { 200: z.array(ClassBrief) } } },
    (request) => loadClasses(request.store.db),
  );
  app.get(
    '/api/classes/:id',
    {
      schema: {
        tags,
        summary: 'A class with its guests, their bars, how it runs and what it costs',
        params: IdParams,
        response: { 200: ClassView },
      },
    },
    (request) => classView(request.store.db, request.params.id, originOf(request)),
  );
  const paper = async (request: FastifyRequest<{ Params: { id: string } }>, language: 'en' | 'de') => {
    const of = await loadClass(request.store.db, request.params.id);
    const view = await viewOf(request.store.db, of, originOf(request));
    const { settings } = of;
    const { timeZone } = await loadHours(request.store.db);
    return [view, { language, massSystem: settings.massSystem, timeZone }] as const;
  };
  app.get(
    '/api/classes/:id/run-sheet.pdf',
    {
      schema: {
        tags,
        summary: 'The host’s sheet: what to prepare, how it runs, who weighs out what',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) =>
      sendPdf(reply, 'class', await hostSheet(...(await paper(request, request.query.language)))),
  );
  app.get(
    '/api/classes/:id/cards.pdf',
    {
      schema: {
        tags,
        summary: 'A card a guest with the code of their own page',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) =>
      sendPdf(reply, 'guests', await guestCards(...(await paper(request, request.query.language)))),
  );
  app.get(
    '/api/classes/:id/labels.pdf',
    {
      schema: {
        tags,
        summary: 'A label for each bar with its guest’s name, made from what each weighs out',
        params: IdParams,
        querystring: AskedDesign,
      },
    },
    async (request, reply) => {
      const of = await loadClass(request.store.db, request.params.id);
      const design = await designOf(request, request.query);
      const { timeZone } = await loadHours(request.store.db);
      const { print, type } = await press();
      const labels = seatsOf(of).flatMap(({ row, facts, tried }) => {
        if (facts.state !== 'coming' || !tried.bar) return [];
        const { base } = of;
        const label = saying(() =>
          print.layOutLabel(
            {
              lines: tried.bar!.lines,
              origins: base.made?.origins ?? [],
              broughtAllergens: base.brought,
              bought: base.made?.bought ?? {},
              boughtKind: null,
              complete: base.made?.complete ?? true,
              netMg: of.facts.barMg,
              code: dayOf(Date.parse(of.row.startsAt), timeZone),
              bestBefore: null,
              ownName: '',
              shellPercent: null,
              waterActivity: null,
              pageUrl: `${originOf(request)}/class/${row.code}`,
            },
            {
              // Whoever made it stands where the maker stands.
              name: `${facts.name} · ${of.settings.name}`,
              address: of.settings.address,
              cacaoSchool: of.settings.cacaoSchool,
              traces: of.settings.traces,
            },
            design,
            type,
          ),
        );
        return Array.from({ length: of.facts.barsEach }, () => label);
      });
      if (labels.length === 0)
        throw new Problem({
          status: 409,
          code: 'nobody-comes',
          detail: 'nobody has chosen yet; labels are made from what guests choose',
        });
      try {
        return await sendPdf(
          reply,
          'class-labels',
          await print.labelsPdf(labels, type, { title: of.facts.title }),
        );
      } catch (error) {
        return saying(() => {
          throw error;
        });
      }
    },
  );
}

/** The guests’ door: one’s own seat by one’s own address, and nothing else. No sign-in, no cookie. */
export function classGuestRoutes(app: App): void {
  const tags = ['classes'];
  const seat = async (request: FastifyRequest<{ Params: { code: string } }>) => {
    const code = request.params.code.toUpperCase();
    const found = GUEST_CODE.test(code) ? await seatByCode(request.home.db, code) : null;
    if (!found)
      throw new Problem({
        status: 404,
        code: 'no-such-seat',
        detail: 'nobody is expected under this address; read it again from the card',
      });
    return found;
  };
  const config = { rateLimit: KNOCKS };
  app.get(
    '/api/class/:code',
    {
      schema: {
        tags,
        summary: 'A guest’s own seat in a class',
        params: Code,
        response: { 200: ClassSeat },
      },
      config,
    },
    async (request) => {
      const { of, guestId } = await seat(request);
      return seatView(of, guestId, Date.now());
    },
  );
  const tell = async (
    request: FastifyRequest<{ Params: { code: string } }>,
    kind: 'class.choose' | 'class.score',
    body: object,
  ) => {
    const { of, guestId } = await seat(request);
    const before = seatView(of, guestId, Date.now());
    if (kind === 'class.choose' ? !before.mayChoose : !before.mayScore)
      throw new Problem({
        status: 409,
        code: kind === 'class.choose' ? 'class-held' : 'class-ahead',
        detail:
          kind === 'class.choose'
            ? 'this class has been, or was called off; nothing is chosen for it any more'
            : 'this class has not begun yet; say how you like your chocolate once you have made it',
      });
    await request.home.writer.submit({
      kind,
      target: guestId,
      actor: { id: null, initials: before.name.slice(0, 12), role: 'taster' },
      body,
    });
    const after = await seat(request);
    return seatView(after.of, after.guestId, Date.now());
  };
  app.put(
    '/api/class/:code/choice',
    {
      schema: {
        tags,
        summary: 'Choose one’s own chocolate, and say what one must not touch',
        params: Code,
        body: GuestChoice,
        response: { 200: ClassSeat },
      },
      config,
    },
    async (request) => {
      const { of } = await seat(request);
      const { cacaoPercent, flavourIds } = request.body;
      if (cacaoPercent !== null && !of.facts.sweetness.includes(cacaoPercent))
        throw new Problem({
          status: 422,
          code: 'not-offered',
          field: 'cacaoPercent',
          detail: `choose among ${of.facts.sweetness.map((s) => `${s} %`).join(', ')}`,
        });
      const stray = flavourIds.find((f) => !of.facts.flavours.some((o) => o.ingredientId === f));
      if (stray || flavourIds.length > of.facts.flavoursEach)
        throw new Problem({
          status: 422,
          code: 'not-offered',
          field: 'flavourIds',
          detail: `choose at most ${of.facts.flavoursEach} of the flavours offered`,
        });
      return tell(request, 'class.choose', request.body);
    },
  );
  app.put(
    '/api/class/:code/score',
    {
      schema: {
        tags,
        summary: 'Say how one likes what one made',
        params: Code,
        body: GuestScore,
        response: { 200: ClassSeat },
      },
      config,
    },
    (request) => tell(request, 'class.score', request.body),
  );
}
