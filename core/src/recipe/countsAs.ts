import type { Material } from '../ledger/index.ts';

/**
 * Key of the ingredient that a recipe calls a material, for those that lie in lots and parcels of their own: beans before they are ground count
 * as nibs, whatever was bought or pressed as what it is. What is not here, such as chocolate melted in again, is several at once.
 */
export const COUNTS_AS: Readonly<
  Partial<Record<Material, 'nibs' | 'liquor' | 'cocoa-butter' | 'cocoa-powder'>>
> = {
  'dry beans': 'nibs',
  'sorted beans': 'nibs',
  'roasted beans': 'nibs',
  nibs: 'nibs',
  fines: 'nibs',
  liquor: 'liquor',
  'cocoa butter': 'cocoa-butter',
  'cocoa powder': 'cocoa-powder',
};
