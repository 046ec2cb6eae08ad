export * from './back.ts';
export * from './epcis.ts';
export * from './forward.ts';
export * from './graph.ts';
export * from './recall.ts';
export * from './rows.ts';
