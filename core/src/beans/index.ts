export * from './arrival.ts';
export * from './stock.ts';
export * from './harvest.ts';
export * from './title.ts';
