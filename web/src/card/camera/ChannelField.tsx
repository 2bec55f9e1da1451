/** One channel of a camera as a number; a small cross beside it sets a key on this channel alone. */
import type { CameraPart, CameraView } from "../../api/generated";
import { edit } from "../../state/edits";
import { session } from "../../state/session";
import { CAMERA_CHANNELS } from "../../api/tables";
import { NumberField } from "../../widgets/NumberField";

interface ChannelFieldProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  name: keyof typeof CAMERA_CHANNELS;
  /** A shorter title, where it is clear from around it what is meant. */
  label?: string;
  digits?: number;
  step?: number;
}

export function ChannelField({ camera, path, row, name, label, digits, step }: ChannelFieldProps) {
  const value = path.values[name]?.[row] ?? 0;
  const { title, sign, lock_group, least, greatest } = CAMERA_CHANNELS[name];
  const locked = camera.locks.includes(lock_group);
  const keyed = camera.keyed_channels.includes(name);
  return (
    <div className="channel">
      <NumberField
        label={label ?? title}
        value={value}
        disabled={locked}
        unit={sign.trim()}
        digits={digits}
        step={step}
        min={least}
        max={greatest}
        onSet={(v) => edit({ edit: "set camera values", camera_id: camera.id, values: { [name]: v } })}
      />
      <button
        className={keyed ? "key keyed" : "key"}
        disabled={locked}
        aria-label={`Set a key on ${label ?? title}`}
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
