export * from './rest.ts';
