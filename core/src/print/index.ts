export * from './label.ts';
export * from './layout.ts';
export * from './market.ts';
export * from './pdf.ts';
export * from './setting.ts';
export * from './svg.ts';
export * from './symbol.ts';
export * from './type.ts';
