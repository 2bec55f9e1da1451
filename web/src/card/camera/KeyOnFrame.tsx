/** A key on this frame for the channels that a drawing sets, and whether they have keys at all. */
import type { CameraPart, CameraView } from "../../api/generated";
import { CAMERA_CHANNELS } from "../../api/tables";
import { edit } from "../../state/edits";
import { session } from "../../state/session";

interface KeyOnFrameProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  names: (keyof typeof CAMERA_CHANNELS)[];
  what: string;
}

export function KeyOnFrame({ camera, path, row, names, what }: KeyOnFrameProps) {
  const isLocked = names.some((n) => camera.locks.includes(CAMERA_CHANNELS[n].lock_group));
  const isKeyed = names.some((n) => camera.keyed_channels.includes(n));
  const isMoved = names.some((n) => camera.unkeyed.includes(n));
  return (
    <div className="key-on-frame">
      <span className="why">
        {isMoved
          ? `The ${what} was moved and is not keyed.`
          : isKeyed
            ? `The ${what} has keys.`
            : `The ${what} has no keys: it stays so.`}
      </span>
      <button
        className="toggle"
        disabled={isLocked}
        aria-pressed={isKeyed}
        onClick={() =>
          edit({
            edit: "key camera values",
            camera_id: camera.id,
            time: String(session().frame),
            values: Object.fromEntries(names.map((n) => [n, path.values[n]![row]!])),
          })
        }
      >
        key the {what} here
      </button>
    </div>
  );
}
