/** One channel of a camera as a number; a small cross beside it sets a key on this channel alone. */
import type { CameraPart, CameraView } from "../../api/generated";
import { edit } from "../../state/edits";
import { session } from "../../state/session";
import { NumberField } from "../../widgets/NumberField";

interface ChannelFieldProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  name: string;
  label?: string;
  unit?: string;
  digits?: number;
  step?: number;
  min?: number;
  max?: number;
}

const LENS = ["focus_m", "aperture"];

export function ChannelField({ camera, path, row, name, label, ...rest }: ChannelFieldProps) {
  const value = path.values[name]?.[row] ?? 0;
  const group = LENS.includes(name) ? "lens" : name.endsWith("weight") ? "angles" : "place";
  const locked = camera.locks.includes(group);
  const keyed = camera.keyed_channels.includes(name);
  return (
    <div className="channel">
      <NumberField
        label={label ?? name}
        value={value}
        disabled={locked}
        {...rest}
        onSet={(v) => edit({ edit: "set camera values", camera_id: camera.id, values: { [name]: v } })}
      />
      <button
        className={keyed ? "key keyed" : "key"}
        disabled={locked}
        aria-label={`Set a key on ${label ?? name}`}
        title={keyed ? "has keys; sets one on this frame" : "sets a key on this frame"}
        onClick={() =>
          edit({
            edit: "key camera values",
            camera_id: camera.id,
            time: String(session().frame),
            values: { [name]: value },
          })
        }
      >
        ×
      </button>
    </div>
  );
}
