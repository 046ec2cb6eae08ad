import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import { Id, LabelDesignSchema, LabelView } from '@wunsch/contract';
import type { LabelDesign } from '@wunsch/core/label';
import { MOST_COPIES } from '@wunsch/core/label';
import type { LaidLabel } from '@wunsch/core/print';
import { Problem } from '../../http/problem.ts';
import { barAddress, hasPage } from '../../publicBar/page.ts';
import { loadSettings } from '../../views/settings.ts';
import { sendPdf } from '../../http/paper.ts';
import type { App } from '../../http/types.ts';
import { loadBars, type LabelledBars } from './barFacts.ts';
import { press } from './press.ts';
import { loadDesigns } from './moulds.ts';

/** Which design: by its id or key, or written out as JSON, for one that is not kept. */
export const AskedDesign = z.object({
  design: z
    .string()
    .max(60)
    .default('single')
    .describe('id of a kept design, or single, wrapper, stickers, mini'),
  as: z.string().max(4000).optional().describe('a design written out as JSON, instead of a kept one'),
});

const Printed = AskedDesign.extend({
  copies: z.coerce.number().int().min(1).max(MOST_COPIES).default(1),
  first: z.coerce.number().int().min(1).max(2400).default(1).describe('place on the first sheet to begin at'),
  perBox: z.coerce
    .number()
    .int()
    .min(1)
    .max(1000)
    .optional()
    .describe('bars of a box: its own label follows them'),
});

/** What cannot be printed is said as it is; it is the asker who can mend it. */
export function saying<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw refusal(error);
  }
}

function refusal(error: unknown): unknown {
  return error instanceof RangeError
    ? new Problem({ status: 422, code: 'not-printable', detail: error.message })
    : error;
}

/**
 * The design asked for.
 *
 * @throws Problem 404, 400 or 422 for one that is not there or cannot be read
 */
export async function designOf(
  request: FastifyRequest,
  { design, as }: z.output<typeof AskedDesign>,
): Promise<LabelDesign> {
  if (as !== undefined) {
    let written: unknown;
    try {
      written = JSON.parse(as);
    } catch {
      throw new Problem({ status: 400, code: 'not-valid', field: 'as', detail: 'the design is not JSON' });
    }
    const read = LabelDesignSchema.safeParse(written);
    if (read.success) return read.data;
    const [issue] = read.error.issues;
    throw new Problem({
      status: 422,
      code: 'not-valid',
      field: ['as', ...issue!.path].join('.'),
      detail: issue!.message,
    });
  }
  const found = (await loadDesigns(request.store.db)).find((d) => d.id === design);
  if (!found)
    throw new Problem({
      status: 404,
      code: 'not-found',
      detail: `there is no design "${design}"; it is the id of a kept one, or single, wrapper, stickers, mini`,
    });
  return found.design;
}

async function barsOf(request: FastifyRequest, parcelId: string): Promise<LabelledBars> {
  const { db } = request.store;
  const origin = `${request.protocol}://${request.host}`;
  const bars = await loadBars(db, parcelId, (batchId) => `${origin}/batch/${batchId}`);
  if (bars.batchId === null || !(await hasPage(db, bars.batchId))) return bars;
  const base = (await loadSettings(db)).publicAddress || origin;
  return { ...bars, bar: { ...bars.bar, pageUrl: barAddress(base, bars.bar.code) } };
}

/** Labels of bars as made: looked at, and printed. Nothing of it is kept. */
export function labelRoutes(app: App): void {
  const tags = ['mould'];
  const params = z.object({ parcelId: Id });
  const laid = async (request: FastifyRequest, parcelId: string, asked: z.output<typeof AskedDesign>) => {
    const bars = await barsOf(request, parcelId);
    const design = await designOf(request, asked);
    const { print, type } = await press();
    const label = saying(() => print.layOutLabel(bars.bar, bars.maker, design, type));
    return { ...bars, label, print, type };
  };
  const nameOf = (label: LaidLabel, code: string) => [label.content.soldAs, code].filter(Boolean).join(' ');
  app.get(
    '/api/labels/:parcelId',
    {
      schema: {
        tags,
        summary: 'The label of some bars as they were made: both sides as SVG, and what its market asks',
        params,
        querystring: AskedDesign,
        response: { 200: LabelView },
      },
    },
    async (request) => {
      const { bar, count, label, print, type } = await laid(request, request.params.parcelId, request.query);
      const svg = (side: LaidLabel['front']) =>
        print.labelSvg(side, label.design, type, nameOf(label, bar.code));
      const { sheet } = label.design;
      return {
        code: bar.code,
        bars: count,
        netMg: bar.netMg,
        front: svg(label.front),
        back: label.back && svg(label.back),
        fits: label.fits,
        soldAs: label.content.soldAs,
        checks: label.checks,
        source: label.rules.source,
        places: sheet ? sheet.rows * sheet.columns : 1,
      };
    },
  );
  app.get(
    '/api/labels/:parcelId/label.svg',
    {
      schema: {
        tags,
        summary: 'One side of the label as SVG at true size',
        params,
        querystring: AskedDesign.extend({ side: z.enum(['front', 'back']).default('front') }),
      },
    },
    async (request, reply) => {
      const { bar, label, print, type } = await laid(request, request.params.parcelId, request.query);
      const side = request.query.side === 'front' ? label.front : label.back;
      if (!side)
        throw new Problem({ status: 404, code: 'not-found', detail: 'nothing is printed on the back' });
      return reply
        .type('image/svg+xml')
        .send(print.labelSvg(side, label.design, type, nameOf(label, bar.code)));
    },
  );
  app.get(
    '/api/labels/:parcelId/label.pdf',
    {
      schema: {
        tags,
        summary:
          'Labels as PDF at true size: one, a sheet, or as many as there are bars, with those of their boxes',
        params,
        querystring: Printed,
      },
    },
    async (request, reply) => {
      const { copies, first, perBox } = request.query;
      const { bar, maker, label, print, type } = await laid(request, request.params.parcelId, request.query);
      try {
        const pdf = await print.labelPdf(label, type, {
          copies,
          firstPlace: first - 1,
          title: nameOf(label, bar.code),
          boxes: perBox
            ? {
                bars: perBox,
                layOut: (bars) => print.layOutBox(bar, maker, label.design, { type, bars }),
              }
            : null,
        });
        return await sendPdf(reply, bar.code.replace(/[^\w.-]+/g, '_') || 'label', pdf);
      } catch (error) {
        throw refusal(error);
      }
    },
  );
}
