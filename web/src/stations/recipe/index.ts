/** What other stations use of the recipe's: the bowl's lines and figures, its notes, and adding to it. */
export { AddIngredient } from './AddIngredient.tsx';
export { BowlNotes, FlowLine } from './BowlNotes.tsx';
export { Figures } from './Figures.tsx';
export { bowlAt, bowlLines, costNow, ingredientOf, linesWith, useIngredients } from './useIngredients.ts';
export { isWeighedIn } from './weighedIn.ts';
export { WeighPlanned } from './WeighPlanned.tsx';
