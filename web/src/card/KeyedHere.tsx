/** The channels that have a key on a frame, each with its value; of keys with handles of their own also how steep the curve is. */
import type { CameraView, ChannelsPart } from "../api/generated";
import { CAMERA_CHANNELS, KEY_SHAPES } from "../api/tables";
import { whyLocked } from "../state/actions";
import { edit } from "../state/edits";
import { part, useSession } from "../state/session";
import { NumberField } from "../widgets/NumberField";

type Name = keyof typeof CAMERA_CHANNELS;

interface Keyed {
  name: Name;
  time: string;
  value: number;
  shape: (typeof KEY_SHAPES)[number];
  /** Frames and value of the handles before and after it. */
  handles: [number, number, number, number];
}

export function KeyedHere({ camera, frame }: { camera: CameraView; frame: number }) {
  const channels = useSession((s) => part<ChannelsPart>(s, camera.channels));
  const keyed = Object.entries(channels?.keyed ?? {}).flatMap(([name, keys]): Keyed[] => {
    const at = keys.frames.indexOf(frame);
    if (at < 0) return [];
    const handles = Array.from(keys.handles.subarray(at * 4, at * 4 + 4)) as Keyed["handles"];
    const shape = KEY_SHAPES[keys.shapes[at]!]!;
    return [{ name: name as Name, time: keys.times[at]!, value: keys.values[at]!, shape, handles }];
  });
  if (!keyed.length) return null;
  return (
    <>
      <h3>Keyed on {frame}</h3>
      {keyed.map((key) => (
        <KeyFields key={key.name} camera={camera} keyed={key} />
      ))}
    </>
  );
}

function KeyFields({ camera, keyed }: { camera: CameraView; keyed: Keyed }) {
  const { name, time, value, shape, handles } = keyed;
  const { title, sign, lock_group } = CAMERA_CHANNELS[name];
  const unit = sign.trim();
  const disabled = whyLocked(camera, [lock_group as "place"]) !== null;
  const own = { edit: "set curve key", camera_id: camera.id, channel: name, time } as const;
  const [inFrames, inValue, outFrames, outValue] = handles;
  const step = unit === "°" || unit === "mm" ? 1 : 0.1;
  return (
    <div className="fields" style={{ gridTemplateColumns: shape === "curve" ? "1.4fr 1fr 1fr" : "1fr" }}>
      <NumberField
        label={`${title}, ${shape}`}
        value={value}
        unit={unit}
        digits={3}
        step={step}
        disabled={disabled}
        title={`The value of the key of ${title}`}
        onSet={(to) => edit({ ...own, to: null, value: to, arriving: null, leaving: null })}
      />
      {shape === "curve" && (
        <>
          <NumberField
            label="arrives by"
            value={inFrames > 0 ? -inValue / inFrames : 0}
            digits={3}
            step={step / 10}
            disabled={disabled || !(inFrames > 0)}
            title={`By how many ${unit} a frame the curve changes as it arrives`}
            onSet={(slope) =>
              edit({
                ...own,
                to: null,
                value: null,
                arriving: { frames: inFrames, value: -slope * inFrames },
                leaving: null,
              })
            }
          />
          <NumberField
            label="leaves by"
            value={outFrames > 0 ? outValue / outFrames : 0}
            digits={3}
            step={step / 10}
            disabled={disabled || !(outFrames > 0)}
            title={`By how many ${unit} a frame it changes as it leaves`}
            onSet={(slope) =>
              edit({
                ...own,
                to: null,
                value: null,
                arriving: null,
                leaving: { frames: outFrames, value: slope * outFrames },
              })
            }
          />
        </>
      )}
    </div>
  );
}
