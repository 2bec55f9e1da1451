/** How is it carried? The mount, its settings and its channels. */
import { Button, Checkbox, Select, Switch } from "@mantine/core";
import type { CameraPart, CameraView, Subject } from "../../api/generated";
import { edit } from "../../state/edits";
import { chosenCharacter, notify, session, useSession } from "../../state/session";
import { bodySubject, jointSubject, likelySubject } from "../../state/subjects";
import { Fields, NumberField } from "../NumberField";
import { SubjectPicker } from "../SubjectPicker";
import { ChannelField } from "./ChannelField";

type Mount = CameraView["mount"];
type Kind = Mount["kind"];
type Of<K extends Kind> = Extract<Mount, { kind: K }>;
type Attachment = Of<"carried"> | Of<"trailing">;
const KINDS: { value: Kind; label: string }[] = [
  { value: "free", label: "free" },
  { value: "rail", label: "rail" },
  { value: "crane", label: "crane" },
  { value: "orbit", label: "orbit" },
  { value: "carried", label: "carried" },
  { value: "trailing", label: "trailing" },
];
const AXES = ["x", "y", "z", "heading", "pitch", "roll"];

/** Change the mount: to another kind with the picture kept, or its settings. */
function mount(camera: CameraView, changed: Mount, keep: boolean): void {
  edit({ edit: "mount camera", camera_id: camera.id, mount: changed, frame: session().frame, keep });
}

function lay(camera: CameraView, shape: "straight" | "ring" | "square" | "beside the path", side = 3): void {
  const character = chosenCharacter(session());
  edit({
    edit: "lay rail",
    camera_id: camera.id,
    shape,
    frame: session().frame,
    character_id: character?.id ?? null,
    side_m: side,
  });
}

function toKind(camera: CameraView, path: CameraPart, kind: Kind): void {
  const { frame, scene } = session();
  const character = chosenCharacter(session());
  const row = frame - scene!.first;
  const [x, y, z, pan] = [0, 1, 2, 3].map((i) => path.pose[row * 7 + i]!) as [number, number, number, number];
  const carrier = likelySubject();
  if (kind === "free") mount(camera, { kind: "free" }, true);
  else if (kind === "rail") lay(camera, "straight");
  else if (kind === "crane") {
    // The base three metres behind where the camera looks from, on the ground.
    const turn = (pan * Math.PI) / 180;
    const base: [number, number, number] = [x - 3 * Math.sin(turn), 0.9, z + 3 * Math.cos(turn)];
    mount(camera, { kind: "crane", base, heading: pan, follow_pitch: false, follow_yaw: false }, true);
  } else if (kind === "orbit") {
    const pivot: Subject = character
      ? jointSubject(character.id, character.calm_joint)
      : { ...bodySubject(""), kind: "point", owner_id: null, offset: [x, y, z - 3] };
    mount(camera, { kind: "orbit", pivot, follows: "motion" }, true);
  } else if (!carrier) notify("There is nothing to carry it. Bring in a character first.");
  else mount(camera, attachment(kind, carrier), true);
}

function attachment(kind: "carried" | "trailing", subject: Subject): Attachment {
  const base = {
    subject: {
      ...subject,
      offset: [0, 0, 0] as [number, number, number],
      axes: "world" as const,
      radius_m: 0,
    },
    through: [true, true, true, true, true, true] as Attachment["through"],
    place: [0, 0, 0] as [number, number, number],
    turn: [0, 0, 0, 1] as [number, number, number, number],
    heading: 0,
    follows: "motion" as const,
  };
  return kind === "carried" ? { ...base, kind } : { ...base, kind, half_life_s: 0.25 };
}

export function MountSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const locked = camera.locks.includes("place");
  const current = camera.mount;
  return (
    <>
      <Select
        aria-label="Mount"
        data={KINDS}
        value={current.kind}
        allowDeselect={false}
        disabled={locked}
        onChange={(kind) => kind && kind !== current.kind && toKind(camera, path, kind as Kind)}
      />
      {current.kind === "free" && <p className="why">Nothing carries it. Another mount keeps the picture.</p>}
      {current.kind === "rail" && (
        <RailSettings camera={camera} rail={current} path={path} row={row} locked={locked} />
      )}
      {current.kind === "crane" && (
        <CraneSettings camera={camera} crane={current} path={path} row={row} locked={locked} />
      )}
      {current.kind === "orbit" && (
        <>
          <SubjectPicker
            label="Pivot"
            subject={current.pivot}
            disabled={locked}
            onChoose={(pivot) => mount(camera, { ...current, pivot }, true)}
          />
          <Fields columns={3}>
            <ChannelField camera={camera} path={path} row={row} name="azimuth" unit="°" digits={1} />
            <ChannelField camera={camera} path={path} row={row} name="elevation" unit="°" digits={1} />
            <ChannelField camera={camera} path={path} row={row} name="distance" unit="m" />
          </Fields>
          <FollowsSwitch
            value={current.follows}
            disabled={locked}
            onChange={(follows) => mount(camera, { ...current, follows }, true)}
          />
        </>
      )}
      {(current.kind === "carried" || current.kind === "trailing") && (
        <AttachmentSettings camera={camera} carried={current} locked={locked} />
      )}
    </>
  );
}

interface SettingsProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  locked: boolean;
}

function RailSettings({ camera, rail, path, row, locked }: SettingsProps & { rail: Of<"rail"> }) {
  const scene = useSession((s) => s.scene)!;
  const points = rail.points as [number, number, number][];
  const set = (changed: Partial<Of<"rail">>) => mount(camera, { ...rail, ...changed }, false);
  return (
    <>
      <Fields columns={2}>
        <ChannelField
          camera={camera}
          path={path}
          row={row}
          name="rail"
          label="position"
          digits={4}
          step={0.01}
        />
        <NumberField
          label="height on it"
          value={rail.height_m}
          unit="m"
          disabled={locked}
          onSet={(height_m) => set({ height_m })}
        />
      </Fields>
      <div className="actions">
        <Button
          disabled={locked}
          onClick={() =>
            edit({ edit: "run rail evenly", camera_id: camera.id, first: scene.first, last: scene.last })
          }
        >
          Run it evenly
        </Button>
        <Button disabled={locked} onClick={() => lay(camera, "straight")}>
          Straight
        </Button>
        <Button disabled={locked} onClick={() => lay(camera, "ring")}>
          Ring
        </Button>
        <Button disabled={locked} onClick={() => lay(camera, "square")}>
          Square
        </Button>
        <Button
          disabled={locked}
          onClick={() => lay(camera, "beside the path", 3)}
          title="Along the character's own path, 3 m to its left"
        >
          Path, left
        </Button>
        <Button
          disabled={locked}
          onClick={() => lay(camera, "beside the path", -3)}
          title="Along the character's own path, 3 m to its right"
        >
          Path, right
        </Button>
      </div>
      <Select
        label="facing"
        data={[
          { value: "own", label: camera.aim ? "the aim" : "own angles" },
          { value: "along", label: "along the rail" },
        ]}
        value={rail.facing}
        allowDeselect={false}
        disabled={locked}
        onChange={(facing) => mount(camera, { ...rail, facing: facing as "own" }, true)}
      />
      <Switch
        label="closed ring"
        size="xs"
        my={6}
        checked={rail.closed}
        disabled={locked}
        onChange={() => set({ closed: !rail.closed })}
      />
      <h4>
        Points and bumps <span className="spacer" />
        <button
          className="toggle"
          disabled={locked}
          onClick={() =>
            set({ bumps: [...rail.bumps, { at: path.values.rail![row]!, height_m: 0.03, length_m: 0.4 }] })
          }
        >
          bump here
        </button>
      </h4>
      {points.map((point, index) => (
        <Fields key={index} columns={3}>
          {point.map((value, axis) => (
            <NumberField
              key={axis}
              label={index ? "" : ["x", "y", "z"][axis]!}
              title={`Point ${index + 1}, ${["x", "y", "z"][axis]}`}
              value={value}
              disabled={locked}
              onSet={(v) =>
                set({
                  points: points.map((p, i) =>
                    i === index ? (p.map((c, a) => (a === axis ? v : c)) as typeof p) : p,
                  ),
                })
              }
            />
          ))}
        </Fields>
      ))}
      {rail.bumps.map((bump, index) => (
        <div key={index} className="saved-view">
          <span className="soft" style={{ flex: 1 }}>
            bump at {(bump.at * 100).toFixed(0)} %, {(bump.height_m * 1000).toFixed(0)} mm over{" "}
            {bump.length_m.toFixed(2)} m
          </span>
          <button
            className="toggle"
            disabled={locked}
            onClick={() => set({ bumps: rail.bumps.filter((_, i) => i !== index) })}
          >
            take away
          </button>
        </div>
      ))}
      <p className="why">
        Points are dragged in Roam and on the Plan; Shift lifts, + adds, Alt click removes.
      </p>
    </>
  );
}

function CraneSettings({ camera, crane, path, row, locked }: SettingsProps & { crane: Of<"crane"> }) {
  const set = (changed: Partial<Of<"crane">>, keep = false) => mount(camera, { ...crane, ...changed }, keep);
  return (
    <>
      <Fields columns={3}>
        <ChannelField
          camera={camera}
          path={path}
          row={row}
          name="arm_pitch"
          label="arm pitch"
          unit="°"
          digits={1}
        />
        <ChannelField
          camera={camera}
          path={path}
          row={row}
          name="arm_yaw"
          label="arm yaw"
          unit="°"
          digits={1}
        />
        <ChannelField camera={camera} path={path} row={row} name="arm_length" label="length" unit="m" />
      </Fields>
      <Fields columns={4}>
        {(["x", "y", "z"] as const).map((axis, index) => (
          <NumberField
            key={axis}
            label={`base ${axis}`}
            value={crane.base[index]!}
            disabled={locked}
            onSet={(v) =>
              set({ base: crane.base.map((c, i) => (i === index ? v : c)) as [number, number, number] })
            }
          />
        ))}
        <NumberField
          label="heading"
          value={crane.heading}
          unit="°"
          digits={1}
          disabled={locked}
          onSet={(heading) => set({ heading })}
        />
      </Fields>
      <Switch
        label="head follows the arm's pitch"
        size="xs"
        my={5}
        disabled={locked}
        checked={crane.follow_pitch}
        onChange={() => set({ follow_pitch: !crane.follow_pitch }, true)}
      />
      <Switch
        label="head follows the arm's yaw"
        size="xs"
        my={5}
        disabled={locked}
        checked={crane.follow_yaw}
        onChange={() => set({ follow_yaw: !crane.follow_yaw }, true)}
      />
    </>
  );
}

function AttachmentSettings({
  camera,
  carried,
  locked,
}: {
  camera: CameraView;
  carried: Attachment;
  locked: boolean;
}) {
  return (
    <>
      <SubjectPicker
        label="Carried by"
        subject={carried.subject}
        disabled={locked}
        onChoose={(subject) =>
          mount(
            camera,
            { ...carried, subject: { ...subject, offset: [0, 0, 0], axes: "world", radius_m: 0 } },
            true,
          )
        }
      />
      <div className="through-axes" role="group" aria-label="What is let through">
        {AXES.map((axis, index) => (
          <Checkbox
            key={axis}
            label={axis}
            size="xs"
            disabled={locked}
            checked={carried.through[index]!}
            onChange={() =>
              mount(
                camera,
                {
                  ...carried,
                  through: carried.through.map((t, i) => (i === index ? !t : t)) as Attachment["through"],
                },
                true,
              )
            }
          />
        ))}
      </div>
      {carried.kind === "trailing" && (
        <NumberField
          label="half of the way caught up after"
          value={carried.half_life_s}
          unit="s"
          digits={3}
          min={0}
          max={60}
          disabled={locked}
          onSet={(half_life_s) => mount(camera, { ...carried, half_life_s }, true)}
        />
      )}
      <FollowsSwitch
        value={carried.follows}
        disabled={locked}
        onChange={(follows) => mount(camera, { ...carried, follows }, true)}
      />
      <p className="why">
        It keeps the offset that it had when it was attached; what is not let through stays as it was then.
      </p>
    </>
  );
}

export function FollowsSwitch({
  value,
  disabled,
  onChange,
}: {
  value: "motion" | "shown";
  disabled?: boolean;
  onChange: (value: "motion" | "shown") => void;
}) {
  return (
    <Switch
      label={value === "motion" ? "follows the motion, on ones" : "follows the shown, stepped pose"}
      size="xs"
      my={6}
      disabled={disabled}
      checked={value === "shown"}
      onChange={() => onChange(value === "motion" ? "shown" : "motion")}
    />
  );
}
