/** A block of numbers as spreadsheets copy it: rows of cells, tabs between them. */

/** Its cells, or null when it is a single one, which is typed like any other text. */
export function cellsOf(text: string): string[][] | null {
  const rows = text
    .trimEnd()
    .split(/\r?\n/)
    .map((line) => line.split("\t"));
  return rows.length === 1 && rows[0]?.length === 1 ? null : rows;
}

export type Pasted = { down: number; across: number; value: number };

/** The numbers of a block, empty cells left out. Throws with the place of the first that is none. */
export function numbersIn(cells: string[][]): Pasted[] {
  return cells.flatMap((row, down) =>
    row.flatMap((text, across) => {
      if (text.trim() === "") return [];
      const value = Number(text.trim().replace(",", "."));
      if (Number.isFinite(value)) return [{ down, across, value }];
      const place = `line ${down + 1}, column ${across + 1}`;
      throw new Error(`Nothing was pasted: “${text.slice(0, 40)}” (${place}) is not a number.`);
    }),
  );
}
