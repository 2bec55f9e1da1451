/** A free camera: nothing carries it. */
import type { MountKind } from "./mountKind";
import { mount } from "./mounting";

const FREE: MountKind<"free"> = {
  kind: "free",
  place: 1,
  settings: () => <p className="why">Nothing carries it. Another mount keeps the picture.</p>,
  begin: (camera) => mount(camera, { kind: "free" }, true),
};

export const KINDS = [FREE];
