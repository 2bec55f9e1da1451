/** A free camera: nothing carries it. */
import type { MountKind } from "./mountKind";

const FREE: MountKind<"free"> = {
  kind: "free",
  place: 1,
  settings: () => <p className="why">Nothing carries it. Another mount keeps the picture.</p>,
};

export const KINDS = [FREE];
