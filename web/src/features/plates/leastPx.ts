/** Less of a line than this nobody sees, pixels. */
export const LEAST_PX = 0.05;
