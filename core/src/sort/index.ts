export * from './cutTest.ts';
export * from './session.ts';
