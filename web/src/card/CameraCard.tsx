/** Set up: the camera that is worked on, by question. */
import { Accordion } from "@mantine/core";
import { useState } from "react";
import type { CameraPart } from "../api/generated";
import { bakedPose } from "../optics/lens";
import { useCalmFrame } from "../state/calmFrame";
import { part, useSession, workedCamera } from "../state/session";
import { subjectTitle } from "../state/subjects";
import { AimSection } from "./camera/AimSection";
import { CameraHead } from "./camera/CameraHead";
import { DollyZoomSection } from "./camera/DollyZoomSection";
import { FocusSection } from "./camera/FocusSection";
import { FramingSection } from "./camera/framing/FramingSection";
import { GuidesSection } from "./camera/GuidesSection";
import { LensSection } from "./camera/LensSection";
import { MountSection } from "./camera/mount/MountSection";
import { PlaceSection } from "./camera/PlaceSection";

const OPEN = "eddyfield.questions";

function remembered(): string[] {
  try {
    return JSON.parse(localStorage.getItem(OPEN) ?? '["place"]') as string[];
  } catch {
    return ["place"];
  }
}

export function CameraCard() {
  const scene = useSession((s) => s.scene)!;
  const camera = useSession((s) => workedCamera(s));
  const frame = useCalmFrame();
  const path = useSession((s) => part<CameraPart>(s, workedCamera(s)?.path));
  const provisional = useSession((s) => s.provisional);
  const [open, setOpen] = useState(remembered);
  if (!camera || !path) return <p className="why">The scene has no camera.</p>;
  const row = Math.max(0, Math.min(frame, scene.last) - scene.first);
  const pose = provisional ?? bakedPose(path, row);
  const [focus] = [path.depths[row * 4]!];
  const parallel = camera.glass.orthographic_height_m !== null;
  const held = camera.framing && subjectTitle(scene, camera.framing.subjects[0]!);
  const aimed = camera.aim && subjectTitle(scene, camera.aim.targets[0]!.subjects[0]!);
  const questions = [
    {
      id: "place",
      ask: "Where does it stand?",
      short: `${pose.x.toFixed(1)}, ${pose.y.toFixed(1)}, ${pose.z.toFixed(1)} m`,
      body: <PlaceSection camera={camera} pose={pose} row={row} />,
    },
    {
      id: "mount",
      ask: "How is it carried?",
      short: camera.mount.kind,
      body: <MountSection camera={camera} path={path} row={row} />,
    },
    {
      id: "aim",
      ask: "What does it look at?",
      short: aimed ?? "own angles",
      body: <AimSection camera={camera} path={path} row={row} />,
    },
    {
      id: "framing",
      ask: "How is the framing held?",
      short: held ?? "not held",
      body: <FramingSection camera={camera} path={path} row={row} />,
    },
    {
      id: "lens",
      ask: "What does the lens do?",
      short: parallel ? "parallel" : `${pose.focal_mm.toFixed(0)} mm`,
      body: <LensSection camera={camera} path={path} pose={pose} />,
    },
    {
      id: "focus",
      ask: "What is sharp?",
      short: parallel ? "all" : `${focus!.toFixed(2)} m`,
      body: <FocusSection camera={camera} path={path} row={row} />,
    },
    {
      id: "dolly-zoom",
      ask: "Dolly zoom",
      short: "",
      body: <DollyZoomSection key={camera.id} camera={camera} />,
    },
    { id: "guides", ask: "Guides and hands", short: "", body: <GuidesSection /> },
  ];
  return (
    <div className="camera-card">
      <CameraHead camera={camera} />
      <Accordion
        multiple
        order={3}
        value={open}
        chevronPosition="left"
        onChange={(value) => {
          setOpen(value);
          localStorage.setItem(OPEN, JSON.stringify(value));
        }}
      >
        {questions.map(({ id, ask, short, body }) => (
          <Accordion.Item key={id} value={id}>
            <Accordion.Control>
              <span className="question">
                <b>{ask}</b>
                <span className="soft">{short}</span>
              </span>
            </Accordion.Control>
            <Accordion.Panel>{open.includes(id) && body}</Accordion.Panel>
          </Accordion.Item>
        ))}
      </Accordion>
    </div>
  );
}
