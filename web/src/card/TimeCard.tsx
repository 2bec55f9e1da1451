/** Time: the camera's keys and the playing range. */
import { Button, NumberInput } from "@mantine/core";
import { KeysSection } from "./KeysSection";
import { SoundSection } from "./SoundSection";
import { ShotsSection } from "./ShotsSection";
import { edit } from "../state/edits";
import { useCalmFrame } from "../state/calmFrame";
import { playRange, setSession, useSession } from "../state/session";

export function TimeCard() {
  const scene = useSession((s) => s.scene)!;
  const frame = useCalmFrame();
  const range = useSession((s) => s.range);
  const [first, last] = playRange({ scene, range });
  return (
    <>
      <ShotsSection />
      <KeysSection />
      <SoundSection />
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
