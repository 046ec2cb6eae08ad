export * from './counts.ts';
export * from './deliveries.ts';
export * from './items.ts';
export * from './looks.ts';
export * from './parcels.ts';
export * from './reorder.ts';
