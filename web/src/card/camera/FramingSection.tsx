/** How is the framing held? The lock: its subjects, place, zone, lag, size and weight; and baking it to keys. */
import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import type { CameraPart, CameraView, Framing, SubjectsPart } from "../../api/generated";
import { edit } from "../../state/edits";
import { chosenCharacter, part, session, useSession } from "../../state/session";
import { bodySubject, jointSubject } from "../../state/subjects";
import { Fields, NumberField } from "../../widgets/NumberField";
import { SubjectPicker } from "../SubjectPicker";
import { Subjects } from "./AimSection";
import { ChannelField } from "./ChannelField";
import { FollowsSwitch } from "./mount/FollowsSwitch";

export function FramingSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const scene = useSession((s) => s.scene)!;
  const [bakeError, setBakeError] = useState(0.5);
  const locked = camera.locks.includes("angles");
  const set = (framing: Framing | null) =>
    edit({ edit: "hold framing", camera_id: camera.id, framing, frame: session().frame });
  const hold = (subjects: Framing["subjects"]): Framing => ({
    subjects,
    x: 0.5,
    y: 0.4,
    zone_x: 0,
    zone_y: 0,
    half_life_s: 0,
    size: null,
    follows: "motion",
    carried_over: null,
  });
  const { framing } = camera;
  const bake = (error_px: number | null) =>
    edit({ edit: "bake camera", camera_id: camera.id, first: scene.first, last: scene.last, error_px });
  const baking = (
    <>
      <h4>As keys of a free camera</h4>
      <NumberField
        label="few keys, within"
        value={bakeError}
        unit="px"
        digits={3}
        min={0.001}
        onSet={setBakeError}
      />
      <div className="actions">
        <Button disabled={camera.locked} onClick={() => bake(bakeError)}>
          Bake to few keys
        </Button>
        <Button disabled={camera.locked} onClick={() => bake(null)}>
          Every frame
        </Button>
      </div>
    </>
  );
  if (!framing)
    return (
      <>
        <p className="why">Nothing is held. Hold a joint, and it stays at its place in the frame.</p>
        <SubjectPicker label="Hold" subject={null} disabled={locked} onChoose={(s) => set(hold([s]))} />
        {scene.characters.length > 1 && (
          <div className="actions">
            <Button
              disabled={locked}
              onClick={() => set({ ...hold(scene.characters.map((c) => bodySubject(c.id))), y: 0.5 })}
            >
              Hold all characters
            </Button>
          </div>
        )}
        {(camera.mount.kind !== "free" || camera.aim) && baking}
        <WantedRoom />
      </>
    );
  const reached = path.reached[row]!;
  return (
    <>
      <Subjects
        subjects={framing.subjects}
        locked={locked}
        onChange={(subjects) => set({ ...framing, subjects })}
      />
      <Fields columns={2}>
        <NumberField
          label="across"
          value={framing.x * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({ ...framing, x: v / 100 })}
        />
        <NumberField
          label="down"
          value={framing.y * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({ ...framing, y: v / 100 })}
        />
        <NumberField
          label="free zone, wide"
          value={framing.zone_x * 100}
          unit="%"
          digits={1}
          min={0}
          max={100}
          disabled={locked}
          onSet={(v) => set({ ...framing, zone_x: v / 100 })}
        />
        <NumberField
          label="high"
          value={framing.zone_y * 100}
          unit="%"
          digits={1}
          min={0}
          max={100}
          disabled={locked}
          onSet={(v) => set({ ...framing, zone_y: v / 100 })}
        />
        <NumberField
          label="half-life"
          value={framing.half_life_s}
          unit="s"
          digits={3}
          min={0}
          max={60}
          disabled={locked}
          onSet={(half_life_s) => set({ ...framing, half_life_s })}
        />
        <ChannelField camera={camera} path={path} row={row} name="framing_weight" label="weight" />
      </Fields>
      <SizeHold framing={framing} locked={locked} set={set} />
      {(reached & 2) === 0 && <p className="why bad">The place cannot be reached on this frame.</p>}
      {(reached & 4) === 0 && (
        <p className="why bad">The size cannot be had within its limits on this frame.</p>
      )}
      <FollowsSwitch
        value={framing.follows}
        disabled={locked}
        onChange={(follows) => set({ ...framing, follows })}
      />
      <Button disabled={locked} onClick={() => set(null)}>
        Let the framing go
      </Button>
      {baking}
      <WantedRoom />
    </>
  );
}

/** What the readings ask of headroom and lead room, in every camera of the scene. */
function WantedRoom() {
  const room = useSession((s) => s.scene!.room);
  const set = (changed: Partial<typeof room>) => edit({ edit: "want room", room: { ...room, ...changed } });
  return (
    <>
      <h4>Room wanted in the scene</h4>
      <Fields columns={3}>
        <NumberField
          label="headroom from"
          value={room.headroom_least * 100}
          unit="%"
          digits={1}
          onSet={(v) => set({ headroom_least: v / 100 })}
        />
        <NumberField
          label="to"
          value={room.headroom_most * 100}
          unit="%"
          digits={1}
          onSet={(v) => set({ headroom_most: v / 100 })}
        />
        <NumberField
          label="lead room from"
          value={room.lead_least * 100}
          unit="%"
          digits={1}
          onSet={(v) => set({ lead_least: v / 100 })}
        />
      </Fields>
    </>
  );
}

function SizeHold({
  framing,
  locked,
  set,
}: {
  framing: Framing;
  locked: boolean;
  set: (framing: Framing) => void;
}) {
  const { size } = framing;
  const height = useSession((s) => s.scene!.height);
  const subjects = useSession((s) => part<SubjectsPart>(s, s.scene?.subjects));
  const first = useSession((s) => s.scene!.first);
  const present = () => {
    const px = subjects?.characters[0]?.size_px[session().frame - first];
    return px && Number.isFinite(px) ? px / height : 0.6;
  };
  const by = size?.by ?? "off";
  const choose = (way: string) =>
    set({
      ...framing,
      size:
        way === "off"
          ? null
          : {
              by: way as "dolly",
              share: size?.share ?? present(),
              marks: size?.marks ?? null,
              nearest_m: size?.nearest_m ?? 0.5,
              farthest_m: size?.farthest_m ?? 60,
              shortest_mm: size?.shortest_mm ?? 14,
              longest_mm: size?.longest_mm ?? 300,
            },
    });
  const change = (changed: Partial<NonNullable<Framing["size"]>>) =>
    set({ ...framing, size: { ...size!, ...changed } });
  return (
    <>
      <h4>Size</h4>
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="How the size is held"
        value={by}
        disabled={locked}
        data={[
          { value: "off", label: "as it falls" },
          { value: "dolly", label: "by dolly" },
          { value: "zoom", label: "by zoom" },
        ]}
        onChange={choose}
      />
      {size && <SizeMarks size={size} locked={locked} change={change} />}
      {size && (
        <Fields columns={3}>
          <NumberField
            label="of the height"
            value={size.share * 100}
            unit="%"
            digits={1}
            min={0.1}
            disabled={locked}
            onSet={(v) => change({ share: v / 100 })}
          />
          {size.by === "dolly" ? (
            <>
              <NumberField
                label="nearest"
                value={size.nearest_m}
                unit="m"
                disabled={locked}
                onSet={(nearest_m) => change({ nearest_m })}
              />
              <NumberField
                label="farthest"
                value={size.farthest_m}
                unit="m"
                disabled={locked}
                onSet={(farthest_m) => change({ farthest_m })}
              />
            </>
          ) : (
            <>
              <NumberField
                label="shortest"
                value={size.shortest_mm}
                unit="mm"
                digits={0}
                disabled={locked}
                onSet={(shortest_mm) => change({ shortest_mm })}
              />
              <NumberField
                label="longest"
                value={size.longest_mm}
                unit="mm"
                digits={0}
                disabled={locked}
                onSet={(longest_mm) => change({ longest_mm })}
              />
            </>
          )}
        </Fields>
      )}
    </>
  );
}

/** What the size is measured on: the subject as a whole, or the distance between two marks. */
function SizeMarks({
  size,
  locked,
  change,
}: {
  size: NonNullable<Framing["size"]>;
  locked: boolean;
  change: (changed: Partial<NonNullable<Framing["size"]>>) => void;
}) {
  const character = useSession((s) => chosenCharacter(s));
  const { marks } = size;
  const begin = () =>
    character &&
    change({
      marks: [
        jointSubject(character.id, character.face_joint),
        jointSubject(character.id, character.calm_joint),
      ],
    });
  return (
    <>
      <button
        className="toggle"
        disabled={locked || (!marks && !character)}
        aria-pressed={marks !== null}
        onClick={() => (marks ? change({ marks: null }) : begin())}
      >
        measured between two marks
      </button>
      {marks?.map((mark, index) => (
        <SubjectPicker
          key={index}
          label={`Mark ${index + 1}`}
          subject={mark}
          disabled={locked}
          onChoose={(chosen) => change({ marks: index === 0 ? [chosen, marks[1]!] : [marks[0]!, chosen] })}
        />
      ))}
    </>
  );
}
