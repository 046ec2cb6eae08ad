/** Where everything on hand is read that work is done with: by-products and bars of ten years do not come along. */
export const WORK_STOCK = '/api/stock?of=work';
