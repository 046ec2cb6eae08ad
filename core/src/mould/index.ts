export * from './barCode.ts';
export * from './bars.ts';
export * from './bestBefore.ts';
export * from './dewPoint.ts';
export * from './fill.ts';
export * from './rounds.ts';
export * from './shells.ts';
export * from './warming.ts';
