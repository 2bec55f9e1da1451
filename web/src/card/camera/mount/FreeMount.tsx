/** A free camera: nothing carries it. */
import { DrawRail } from "./DrawRail";
import type { MountKind } from "./mountKind";

const FREE: MountKind<"free"> = {
  kind: "free",
  place: 1,
  settings: (_, { camera, locked }) => (
    <>
      <p className="why">Nothing carries it. Another mount keeps the picture.</p>
      <div className="actions">
        <DrawRail camera={camera} locked={locked} />
      </div>
    </>
  ),
};

export const KINDS = [FREE];
