export * from './allergies.ts';
export * from './classCost.ts';
export * from './guestBar.ts';
export * from './runSheet.ts';
export * from './words.ts';
