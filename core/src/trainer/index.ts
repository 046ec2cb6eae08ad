export * from './bowl.ts';
export * from './grind.ts';
export * from './roast.ts';
export * from './score.ts';
export * from './winnow.ts';
export * from './palate.ts';
export * from './telephone.ts';
export * from './cards.ts';
