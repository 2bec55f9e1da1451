/** Time: shots, keys, sound, what is played, and the scene's own time. */
import { Button, NumberInput } from "@mantine/core";
import { KeysSection } from "./KeysSection";
import { SceneTimeSection } from "./SceneTimeSection";
import { SoundSection } from "./SoundSection";
import { ShotsSection } from "./ShotsSection";
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
      <SceneTimeSection />
    </>
  );
}
