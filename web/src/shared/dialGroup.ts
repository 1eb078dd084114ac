/** What the curves and the table call the dials of a unit. */
export const dialGroup = (unit: string) => `dials ${unit}`.trim();
