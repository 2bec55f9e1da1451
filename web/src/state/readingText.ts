/** How much a reading tells, as people read it: the same in the list and in the Picture. */
import type { ReadingView } from "../api/generated";

export function amountOf({ size, unit }: Pick<ReadingView, "size" | "unit">): string {
  if (unit === "m") return Math.abs(size) < 1 ? `${(size * 1000).toFixed(0)} mm` : `${size.toFixed(2)} m`;
  if (unit === "frames") return `${+size.toFixed(2)} fr`;
  if (unit === "share") return `${(size * 100).toFixed(0)} %`;
  if (unit === "degrees") return `${size.toFixed(0)}°`;
  return unit === "px" ? `${Math.abs(size).toFixed(1)} px` : "";
}

/** What else a reading tells. */
export function figuresOf({ figures }: Pick<ReadingView, "figures">): string[] {
  return figures.map(({ title, value, unit }) =>
    [title, unit === "share" ? `${(value * 100).toFixed(0)} %` : `${+value.toFixed(1)} ${unit}`.trim()].join(
      " ",
    ),
  );
}
