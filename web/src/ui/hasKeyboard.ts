/** Whether there is a keyboard beside a pointer; on a touch screen a field in focus would draw one over the page. */
export const hasKeyboard = (): boolean => window.matchMedia('(pointer: fine)').matches;
