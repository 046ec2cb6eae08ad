export * from './distributions.ts';
export * from './leastSquares.ts';
export * from './line.ts';
export * from './localQuadratic.ts';
export * from './random.ts';
export * from './summary.ts';
export * from './require.ts';
export * from './spread.ts';
