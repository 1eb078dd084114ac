/** A block of numbers as spreadsheets copy it: rows of cells, tabs between them. */
import { arithmeticOf, WrongText } from "../../shared/number";

/** Its cells, or null when it is a single one, which is typed like any other text. */
export function cellsOf(text: string): string[][] | null {
  const rows = text
    .trimEnd()
    .split(/\r?\n/)
    .map((line) => line.split("\t"));
  return rows.length === 1 && rows[0]?.length === 1 ? null : rows;
}

export type Pasted = { down: number; across: number; value: number };

/** The numbers of a block, in a unit, empty cells left out. Throws with the place of the first that is none. */
export async function numbersIn(cells: string[][], unit: string): Promise<Pasted[]> {
  const filled = cells.flatMap((row, down) =>
    row.flatMap((text, across) => (text.trim() === "" ? [] : [{ down, across, text: text.trim() }])),
  );
  try {
    const texts = filled.map(({ text }) => text);
    const values = await arithmeticOf(texts, { unit });
    return filled.map(({ down, across }, n) => ({ down, across, value: values[n] ?? 0 }));
  } catch (error) {
    const wrong = error instanceof WrongText ? filled[error.index] : undefined;
    if (!wrong) throw error;
    const place = `line ${wrong.down + 1}, column ${wrong.across + 1}`;
    const why = (error as WrongText).message;
    throw new Error(
      `Nothing was pasted: “${wrong.text.slice(0, 40)}” (${place}) is not a number of this unit: ${why}.`,
    );
  }
}
