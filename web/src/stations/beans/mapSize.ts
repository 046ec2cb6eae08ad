/** The map of the world as it is drawn, px; what stands in its place until it is there is as large, so that nothing moves under a hand. */
export const MAP_SIZE = { width: 940, height: 440 };
