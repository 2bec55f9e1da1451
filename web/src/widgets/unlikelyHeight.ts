import { USUAL_BODIES_M } from "../api/tables";

/** What to ask about a body that would stand so high, in metres; null where that is what bodies are. */
export function unlikelyHeight(tall: number): string | null {
  const [least, most] = USUAL_BODIES_M;
  if (!(tall > 0) || (tall >= least && tall <= most)) return null;
  const high = tall < 1 ? `${(100 * tall).toPrecision(2)} cm` : `${Math.round(tall)} m`;
  return `A body ${high} high? Choose the unit of the file; or go on, if it is meant.`;
}
