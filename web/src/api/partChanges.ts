/** Parts that come as what is different in them from one that is held. */
import type { PartChange, Splice } from "./generated";

type Numbers = Float32Array | Float64Array | Int32Array | Uint8Array | Uint16Array | Uint32Array;

export const isChange = (part: object): part is PartChange => "kind" in part && part.kind === "change";

/** The part that a change makes of its base, which stays as it is; null without one. */
export function changedBy<Part extends object>(base: Part | undefined, change: PartChange): Part | null {
  return base
    ? (change.splices.reduce<unknown>((part, splice) => spliced(part, splice.path, splice), base) as Part)
    : null;
}

function spliced(part: unknown, [name, ...rest]: string[], splice: Splice): unknown {
  if (name !== undefined) {
    const members = part as Record<string, unknown>;
    return { ...members, [name]: spliced(members[name], rest, splice) };
  }
  const { at, removed, items } = splice;
  if (at === null) return items;
  if (Array.isArray(part))
    return [...part.slice(0, at), ...(items as unknown[]), ...part.slice(at + removed)];
  const [before, added] = [part as Numbers, items as Numbers];
  const made = new (before.constructor as new (length: number) => Numbers)(
    before.length - removed + added.length,
  );
  made.set(before.subarray(0, at));
  made.set(added, at);
  made.set(before.subarray(at + removed), at + added.length);
  return made;
}
