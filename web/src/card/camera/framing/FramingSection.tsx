/** How is the framing held? A drawing of the frame in which everything of it is dragged; numbers behind a click. */
import { Button, SegmentedControl } from "@mantine/core";
import type { CameraPart, CameraView, Framing } from "../../../api/generated";
import type { Edit } from "../../../api/client";
import { FRAMING_BEGINS } from "../../../api/tables";
import { edit } from "../../../state/edits";
import { session, useSession } from "../../../state/session";
import { bodySubject, framingOf } from "../../../state/subjects";
import { SubjectPicker } from "../../SubjectPicker";
import { Subjects } from "../AimSection";
import { BakeToKeys } from "../BakeToKeys";
import { CalmStrip } from "./CalmStrip";
import { FrameDrawing } from "./FrameDrawing";
import { FramingNumbers } from "./FramingNumbers";
import { WantedRoom } from "./WantedRoom";

export function FramingSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const scene = useSession((s) => s.scene)!;
  const locked = camera.locks.includes("angles");
  const edited = (
    framing: Framing | null,
    keeps: { keep_size?: boolean; keep_place?: boolean } = {},
  ): Edit => ({
    edit: "hold framing",
    camera_id: camera.id,
    framing,
    frame: session().frame,
    ...keeps,
  });
  const set = (framing: Framing | null) => edit(edited(framing));
  const { framing } = camera;
  const baking = (camera.mount.kind !== "free" || camera.aim || framing) && <BakeToKeys camera={camera} />;
  if (!framing)
    return (
      <>
        <p className="why">Nothing is held. Hold a joint, and it stays where it is seen on this frame.</p>
        <SubjectPicker
          label="Hold"
          subject={null}
          disabled={locked}
          onChoose={(s) => edit(edited(framingOf([s]), { keep_place: true }))}
        />
        {scene.characters.length > 1 && (
          <div className="actions">
            <Button
              disabled={locked}
              onClick={() => set({ ...framingOf(scene.characters.map((c) => bodySubject(c.id))), y: 0.5 })}
            >
              Hold all characters
            </Button>
          </div>
        )}
        {baking}
        <WantedRoom />
      </>
    );
  const { size } = framing;
  const chooseSize = (by: string) => {
    if (by === "free") return set({ ...framing, size: null });
    const kept = size ?? { share: 0.5, marks: null, ...FRAMING_BEGINS.limits };
    edit(edited({ ...framing, size: { ...kept, by: by as "dolly" } }, { keep_size: size === null }));
  };
  return (
    <>
      <Subjects
        subjects={framing.subjects}
        locked={locked}
        onChange={(subjects) => set({ ...framing, subjects })}
      />
      <FrameDrawing framing={framing} path={path} row={row} locked={locked} edited={edited} />
      <div className="actions">
        {framing.slack.length === 0 ? (
          <Button
            disabled={locked}
            title="A room around its place, of any shape, in which it may wander"
            onClick={() => set({ ...framing, slack: FRAMING_BEGINS.room.map(([x, y]) => [x, y]) })}
          >
            Let it wander
          </Button>
        ) : (
          <Button disabled={locked} onClick={() => set({ ...framing, slack: [] })}>
            No wandering
          </Button>
        )}
        <Button disabled={locked} onClick={() => set(null)}>
          Let the framing go
        </Button>
      </div>
      {framing.slack.length > 0 && (
        <p className="why">
          Drag the corners of the room; Alt click or Delete takes one away. It is kept without dents.
        </p>
      )}
      {(path.reached[row]! & 2) === 0 && (
        <p className="why bad">The place cannot be reached on this frame.</p>
      )}
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="How the size is held"
        value={size?.by ?? "free"}
        disabled={locked}
        data={[
          { value: "free", label: "size as it falls" },
          { value: "dolly", label: "by dolly" },
          { value: "zoom", label: "by zoom" },
        ]}
        onChange={chooseSize}
      />
      {(path.reached[row]! & 4) === 0 && (
        <p className="why bad">The size cannot be had within its limits on this frame.</p>
      )}
      <CalmStrip framing={framing} path={path} row={row} locked={locked} set={set} />
      <FramingNumbers camera={camera} framing={framing} path={path} row={row} locked={locked} set={set} />
      {baking}
      <WantedRoom />
    </>
  );
}
