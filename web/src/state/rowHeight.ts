/** How high the rows of the Sheet are. */
import { session, setSession } from "./session";

export const LOWEST_ROW = 4;
export const HIGHEST_ROW = 30;

export function zoomRows(factor: number): void {
  const height = Math.round(session().rowHeight * factor);
  setSession({ rowHeight: Math.max(LOWEST_ROW, Math.min(HIGHEST_ROW, height)) });
}
