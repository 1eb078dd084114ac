/** Title of the dials of a unit in curves and table. */
export const dialGroup = (unit: string) => `dials ${unit}`.trim();
