/** What is typed into a number: figures, + - * / and brackets, a unit behind it. */

/** The value of an expression, or null when it is none. `before` is the number that stood there: `+=2`, `*=1.5`. */
export function arithmetic(text: string, before: number): number | null {
  const plain = text
    .trim()
    .replace(/,/g, ".")
    .replace(/(°|deg|cm|mm|px|hz|%|s|x|×)\s*$/i, "");
  const relative = /^([+\-*/])=(.+)$/.exec(plain);
  const source = relative ? `${before}${relative[1]}(${relative[2]})` : plain;
  const reader = { text: source.replace(/\s+/g, ""), at: 0 };
  const value = sum(reader);
  return value !== null && reader.at === reader.text.length && Number.isFinite(value) ? value : null;
}

type Reader = { text: string; at: number };

function sum(reader: Reader): number | null {
  let left = product(reader);
  while (left !== null && "+-".includes(reader.text[reader.at] ?? " ")) {
    const minus = reader.text[reader.at++] === "-";
    const right = product(reader);
    left = right === null ? null : minus ? left - right : left + right;
  }
  return left;
}

function product(reader: Reader): number | null {
  let left = factor(reader);
  while (left !== null && "*/".includes(reader.text[reader.at] ?? " ")) {
    const over = reader.text[reader.at++] === "/";
    const right = factor(reader);
    left = right === null ? null : over ? left / right : left * right;
  }
  return left;
}

function factor(reader: Reader): number | null {
  const sign = reader.text[reader.at];
  if (sign === "-" || sign === "+") {
    reader.at++;
    const value = factor(reader);
    return value === null ? null : sign === "-" ? -value : value;
  }
  if (sign === "(") {
    reader.at++;
    const value = sum(reader);
    if (reader.text[reader.at] !== ")") return null;
    reader.at++;
    return value;
  }
  const match = /^\d*\.?\d+(e[+-]?\d+)?|^\d+\./i.exec(reader.text.slice(reader.at));
  if (!match) return null;
  reader.at += match[0].length;
  return Number(match[0]);
}
