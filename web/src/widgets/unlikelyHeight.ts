const LEAST_M = 0.2;
const MOST_M = 20;

/** What to ask about a body that would stand so high, in metres; null where that is what bodies are. */
export function unlikelyHeight(tall: number): string | null {
  if (!(tall > 0) || (tall >= LEAST_M && tall <= MOST_M)) return null;
  const high = tall < 1 ? `${(100 * tall).toPrecision(2)} cm` : `${Math.round(tall)} m`;
  return `A body ${high} high? Choose the unit of the file; or go on, if it is meant.`;
}
