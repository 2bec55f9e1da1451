/** Set up: the shot camera by question — where it stands, how it is turned, what its lens does — and the way to Roam. */
import { Button, NumberInput, Switch } from "@mantine/core";
import type { CameraPart, CameraView } from "../api/generated";
import { bakedPose } from "../picture/lens";
import type { Pose } from "../picture/pose";
import { placeAtRoam, putBack, setCameraKey, toggleLock } from "../state/actions";
import { edit } from "../state/edits";
import { SIDE_NAMES, lookFrom, subjectNow, toggleRoam } from "../state/looking";
import { useCalmFrame } from "../state/calmFrame";
import { cutCamera, part, useSession } from "../state/session";
import { Figure, degrees, metres } from "./Figure";

export function CameraCard() {
  const scene = useSession((s) => s.scene)!;
  const camera = useSession((s) => cutCamera(s));
  const frame = useCalmFrame();
  const looking = useSession((s) => s.looking);
  const path = useSession((s) => part<CameraPart>(s, cutCamera(s)?.path));
  const provisional = useSession((s) => s.provisional);
  if (!camera || !path) return <p className="why">The scene has no camera.</p>;
  const baked = bakedPose(path, frame - scene.first);
  const pose = provisional ?? baked;
  const half = Math.atan(scene.width / 2 / path.pixels_per_slope[(frame - scene.first) * 2]!);
  const { middle } = subjectNow();
  const distance = Math.hypot(pose.x - middle.x, pose.y - middle.y, pose.z - middle.z);
  return (
    <>
      <h2 className="of-camera">
        {camera.name} <small>{camera.role} camera</small>
      </h2>
      <Switch
        label={camera.locked ? "Locked: nothing moves it" : "Unlocked: drag in the Picture to frame"}
        checked={camera.locked}
        onChange={toggleLock}
        size="sm"
      />
      <h3>Where does it stand?</h3>
      <PoseFields camera={camera} pose={pose} names={["x", "y", "z"]} suffix=" m" step={0.05} digits={3} />
      <Figure label="to the character">{metres(distance)}</Figure>
      <h3>How is it turned?</h3>
      <PoseFields
        camera={camera}
        pose={pose}
        names={["pan", "tilt", "roll"]}
        suffix="°"
        step={0.5}
        digits={2}
      />
      <h3>What does the lens do?</h3>
      <PoseFields camera={camera} pose={pose} names={["focal_mm"]} suffix=" mm" step={1} digits={1} />
      <Figure label="view across">{degrees((2 * half * 180) / Math.PI)}</Figure>
      <Figure label="film back">
        {camera.back_width_mm} × {camera.back_height_mm} mm, {camera.gate}
      </Figure>
      <h3>Keys</h3>
      <div className="actions">
        <Button onClick={setCameraKey} disabled={camera.locked}>
          Set key <kbd>K</kbd>
        </Button>
        {camera.unkeyed && (
          <Button onClick={putBack}>
            Put back <kbd>B</kbd>
          </Button>
        )}
      </div>
      <p className="why">
        {camera.unkeyed
          ? "Moved and not keyed: it stands there on every frame until it is keyed or put back."
          : camera.keys.length
            ? `${camera.keys.length} keys from ${camera.keys[0]!.frame} to ${camera.keys.at(-1)!.frame}.`
            : "No keys: it stands still."}
      </p>
      <h3>Look around without harm</h3>
      <div className="actions">
        <Button onClick={toggleRoam} variant={looking === "roam" ? "filled" : "default"}>
          {looking === "roam" ? "Back to the cut" : "Roam"} <kbd>R</kbd>
        </Button>
        {SIDE_NAMES.map((side) => (
          <Button key={side} onClick={() => lookFrom(side)}>
            {side}
          </Button>
        ))}
        <Button onClick={placeAtRoam} disabled={looking !== "roam"}>
          Put camera here <kbd>P</kbd>
        </Button>
      </div>
    </>
  );
}

interface FieldsProps {
  camera: CameraView;
  pose: Pose;
  names: (keyof Pose)[];
  suffix: string;
  step: number;
  digits: number;
}

function PoseFields({ camera, pose, names, suffix, step, digits }: FieldsProps) {
  const place = (name: keyof Pose, value: number) => {
    if (!Number.isFinite(value) || Math.abs(value - pose[name]) < 1e-9) return;
    edit({ edit: "place camera", camera_id: camera.id, pose: { ...pose, [name]: value } });
  };
  return (
    <div style={{ display: "grid", gridTemplateColumns: `repeat(${names.length}, 1fr)`, gap: 6 }}>
      {names.map((name) => (
        <NumberInput
          key={`${name} ${pose[name].toFixed(digits)}`}
          aria-label={name.replace("_mm", "")}
          label={name === "focal_mm" ? "focal length" : name}
          defaultValue={Number(pose[name].toFixed(digits))}
          suffix={suffix}
          step={step}
          decimalScale={digits}
          min={name === "focal_mm" ? 1 : undefined}
          max={name === "focal_mm" ? 5000 : undefined}
          disabled={camera.locked}
          hideControls
          styles={{ input: { fontFamily: "var(--mono)", paddingInline: 6 } }}
          onBlur={(event) => place(name, Number.parseFloat(event.currentTarget.value))}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      ))}
    </div>
  );
}
