/** Numbers as people type them: sums and products, each number with or without a unit of the same kind. */

/** How much of the first unit of its kind one is. */
const KINDS: Record<string, number>[] = [
  { m: 1, mm: 0.001, cm: 0.01, km: 1000, in: 0.0254, ft: 0.3048 },
  { "°": 1, deg: 1, rad: 180 / Math.PI },
  { s: 1, ms: 0.001, min: 60 },
  { "%": 1 },
  { px: 1 },
  { Hz: 1 },
];

/**
 * The amount that a text says, in `unit`; a number without one is taken to be in it. Null for what is none, or of another kind.
 * Knows + - * / and brackets; a comma is a point.
 */
export function amountOf(text: string, unit: string): number | null {
  const kind = KINDS.find((units) => unit in units);
  const tokens = text
    .replaceAll(",", ".")
    .replaceAll("−", "-")
    .match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[a-z°%]+|[-+*/()]|\S/gi);
  if (!tokens) return null;
  let at = 0;
  const next = () => tokens[at];

  function sum(): number {
    let value = product();
    while (next() === "+" || next() === "-") value += tokens![at++] === "+" ? product() : -product();
    return value;
  }
  function product(): number {
    let value = signed();
    while (next() === "*" || next() === "/")
      value = tokens![at++] === "*" ? value * signed() : value / signed();
    return value;
  }
  function signed(): number {
    if (next() === "-" || next() === "+") return tokens![at++] === "-" ? -signed() : signed();
    return measured();
  }
  function measured(): number {
    let value: number;
    if (next() === "(") {
      at += 1;
      value = sum();
      if (tokens![at++] !== ")") return NaN;
    } else value = Number(tokens![at++]);
    const said = next();
    if (said === undefined || !/^[a-z°%]/i.test(said)) return value;
    at += 1;
    if (said === unit) return value;
    const one = kind?.[said];
    return one === undefined ? NaN : (value * one) / kind![unit]!;
  }

  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
