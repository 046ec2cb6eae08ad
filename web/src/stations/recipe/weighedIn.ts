/** Share of what a recipe wants from which it is weighed in: what a kitchen scale leaves open is not weighed again. */
const ENOUGH = 0.97;

/** Whether enough of an ingredient is in the bowl, both in mg. */
export const isWeighedIn = (haveMg: number, wantedMg: number): boolean => haveMg >= wantedMg * ENOUGH;
