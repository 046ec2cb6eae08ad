export * from './stock.ts';
