import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import {
  CustomerBook,
  DatedStock,
  Delivery,
  KeptLook,
  StockItem,
  StockPace,
  StockProof,
  StockValues,
} from '@wunsch/contract';
import { tableLook } from '../db/schema/index.ts';
import { IdParams } from '../http/entries.ts';
import { LanguageQuery, sendPdf } from '../http/paper.ts';
import { notFound } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { loadSettings } from '../views/settings.ts';
import { deliveryNote } from './deliveryNote.ts';
import { loadDated } from './dated.ts';
import { loadPaces } from './paces.ts';
import { loadCustomerBook, loadDeliveries, loadProof, loadStockItems } from './views.ts';
import { loadStockValues } from './values.ts';

/** What is on hand, what went to whom, and whether the books come out even. */
export function stockRoutes(app: App): void {
  const tags = ['stock'];
  app.get(
    '/api/stock-items',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Everything on hand by place, with best before, oldest first',
        response: { 200: z.array(StockItem) },
      },
    },
    (request) => loadStockItems(request.store.db),
  );

  app.get(
    '/api/stock-values',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'What everything on hand and in the machines has cost, with work and overheads',
        response: { 200: StockValues },
      },
    },
    (request) => loadStockValues(request.store.db),
  );

  app.get(
    '/api/stock-paces',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'What is used and sold, how fast, and what runs out first',
        response: { 200: z.array(StockPace) },
      },
    },
    (request) => loadPaces(request.store.db, request.store.now()),
  );

  app.get(
    '/api/stock-dated',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'What on hand is past its best before, and what will be shortly',
        response: { 200: DatedStock },
      },
    },
    (request) => loadDated(request.store.db, request.store.now()),
  );

  app.get(
    '/api/table-looks',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Ways of looking at tables that were given a name',
        response: { 200: z.array(KeptLook) },
      },
    },
    async (request) => {
      const rows = await request.store.db
        .select()
        .from(tableLook)
        .where(eq(tableLook.voided, false))
        .orderBy(asc(tableLook.name), asc(tableLook.id));
      return rows.map(({ id, table, name, query, by }) => ({ id, table, name, query, by }));
    },
  );

  app.get(
    '/api/stock-proof',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Whether all that came is on hand, gone out or lost, to the milligram and the bar',
        response: { 200: StockProof },
      },
    },
    (request) => loadProof(request.store.db),
  );

  app.get(
    '/api/customers',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Customers, and what is still promised to them',
        response: { 200: CustomerBook },
      },
    },
    (request) => loadCustomerBook(request.store.db),
  );

  app.get(
    '/api/deliveries',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Deliveries, newest first',
        querystring: z.object({ limit: z.coerce.number().int().min(1).max(20_000).default(200) }),
        response: { 200: z.array(Delivery) },
      },
    },
    (request) => loadDeliveries(request.store.db, { limit: request.query.limit }),
  );

  app.get(
    '/api/deliveries/:id',
    {
      config: { cached: true },
      schema: { tags, summary: 'One delivery', params: IdParams, response: { 200: Delivery } },
    },
    async (request) => {
      const [found] = await loadDeliveries(request.store.db, { id: request.params.id });
      if (!found) throw notFound('delivery', request.params.id);
      return found;
    },
  );

  app.get(
    '/api/deliveries/:id/note.pdf',
    {
      schema: {
        tags,
        summary: 'A delivery note, PDF',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) => {
      const { db } = request.store;
      const [found] = await loadDeliveries(db, { id: request.params.id });
      if (!found) throw notFound('delivery', request.params.id);
      const { timeZone } = await loadHours(db);
      const from = await loadSettings(db);
      const bytes = await deliveryNote(found, from, request.query.language, timeZone);
      return sendPdf(reply, `delivery-${found.number}`, bytes);
    },
  );
}
