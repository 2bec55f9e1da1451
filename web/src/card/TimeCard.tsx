/** Time: the camera's keys and the playing range. */
import { ActionIcon, Button, NumberInput, Select } from "@mantine/core";
import { IconX } from "@tabler/icons-react";
import type { CameraView, ChannelsPart, EditRequest } from "../api/generated";
import { CAMERA_CHANNELS, KEY_SHAPES } from "../api/tables";
import { Figure } from "../widgets/Figure";
import { ShotsSection } from "./ShotsSection";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { part, playRange, setSession, useSession, workedCamera } from "../state/session";

type KeyShape = Extract<EditRequest["edit"], { edit?: "shape camera key" }>["shape"];
const SHAPES: KeyShape[] = ["ease", "smooth", "linear", "hold"];

const MOST_ROWS = 24;

export function TimeCard() {
  const scene = useSession((s) => s.scene)!;
  const camera = useSession((s) => workedCamera(s));
  const frame = useCalmFrame();
  const range = useSession((s) => s.range);
  const [first, last] = playRange({ scene, range });
  return (
    <>
      <ShotsSection />
      <h2 className="of-camera">
        {camera?.name ?? "No camera"} <small>{camera?.keys.length ?? 0} keys</small>
      </h2>
      {camera && !camera.keys.length && (
        <p className="why">
          No keys yet. Unlock the camera, frame it, press <kbd>K</kbd>; go to another frame, frame it again,
          press <kbd>K</kbd>.
        </p>
      )}
      {camera?.keys.slice(0, MOST_ROWS).map((key) => (
        <div key={key.time} style={{ display: "flex", alignItems: "center", gap: 6, padding: "2px 0" }}>
          <button
            className="toggle"
            aria-pressed={key.frame === frame}
            onClick={() => goTo(key.frame)}
            style={{ minWidth: 58 }}
          >
            <span className="mono">{key.time}</span>
          </button>
          <Select
            aria-label={`Shape of the key at ${key.time}`}
            data={SHAPES}
            value={key.shape}
            allowDeselect={false}
            disabled={camera.locked}
            onChange={(shape) =>
              edit({
                edit: "shape camera key",
                camera_id: camera.id,
                time: key.time,
                shape: shape as KeyShape,
              })
            }
            style={{ flex: 1 }}
          />
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Delete the key at ${key.time}`}
            disabled={camera.locked}
            onClick={() => edit({ edit: "delete camera key", camera_id: camera.id, time: key.time })}
          >
            <IconX size={15} />
          </ActionIcon>
        </div>
      ))}
      {camera && camera.keys.length > MOST_ROWS && (
        <p className="why">And {camera.keys.length - MOST_ROWS} more, in the Sheet.</p>
      )}
      {camera?.locked && (
        <p className="why">The camera is locked; its keys can be read, not changed (L unlocks).</p>
      )}
      {camera && <KeyedHere camera={camera} frame={frame} />}
      <h3>What is played</h3>
      <div style={{ display: "flex", gap: 6 }}>
        <NumberInput
          label="from"
          value={first}
          min={scene.first}
          max={last}
          onChange={(value) => typeof value === "number" && setSession({ range: [value, last] })}
        />
        <NumberInput
          label="to"
          value={last}
          min={first}
          max={scene.last}
          onChange={(value) => typeof value === "number" && setSession({ range: [first, value] })}
        />
      </div>
      <div className="actions">
        <Button onClick={() => setSession({ range: [frame, Math.max(frame, last)] })}>From here</Button>
        <Button onClick={() => setSession({ range: [Math.min(first, frame), frame] })}>To here</Button>
        <Button disabled={!range} onClick={() => setSession({ range: null })}>
          Whole scene
        </Button>
      </div>
      <h3>The scene</h3>
      <div style={{ display: "flex", gap: 6 }}>
        <SceneEnd label="first frame" value={scene.first} other={scene.last} isFirst />
        <SceneEnd label="last frame" value={scene.last} other={scene.first} />
      </div>
    </>
  );
}

/** The channels that have a key on a frame, each with its value and its shape. */
function KeyedHere({ camera, frame }: { camera: CameraView; frame: number }) {
  const channels = useSession((s) => part<ChannelsPart>(s, camera.channels));
  const keyed = Object.entries(channels?.keyed ?? {}).flatMap(([name, { frames, values, shapes }]) => {
    const at = frames.indexOf(frame);
    const channel = CAMERA_CHANNELS[name as keyof typeof CAMERA_CHANNELS];
    return at < 0 ? [] : [{ channel, value: values[at]!, shape: KEY_SHAPES[shapes[at]!]! }];
  });
  if (!keyed.length) return null;
  return (
    <>
      <h3>Keyed on {frame}</h3>
      {keyed.map(({ channel, value, shape }) => (
        <Figure key={channel.title} label={channel.title}>
          {`${+value.toFixed(3)}${channel.sign}`} <span className="soft">{shape}</span>
        </Figure>
      ))}
    </>
  );
}

function SceneEnd({
  label,
  value,
  other,
  isFirst = false,
}: {
  label: string;
  value: number;
  other: number;
  isFirst?: boolean;
}) {
  const change = (text: string) => {
    const frame = Number.parseInt(text, 10);
    if (!Number.isFinite(frame) || frame === value) return;
    edit({ edit: "set play range", first: isFirst ? frame : other, last: isFirst ? other : frame });
  };
  return (
    <NumberInput
      key={value}
      label={label}
      defaultValue={value}
      hideControls
      onBlur={(event) => change(event.currentTarget.value)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
