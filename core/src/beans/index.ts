export * from './arrival.ts';
export * from './stock.ts';
