/** A rail: the position on it, shapes in one action, its facing, points and bumps. */
import { Button, Select, Switch } from "@mantine/core";
import { useState } from "react";
import type { CameraView } from "../../../api/generated";
import { edit } from "../../../state/edits";
import { chosenCharacter, session, useSession } from "../../../state/session";
import { Fields, NumberField } from "../../../widgets/NumberField";
import { Numbers } from "../../../widgets/Numbers";
import { ChannelField } from "../ChannelField";
import { KeyOnFrame } from "../KeyOnFrame";
import { RailRun } from "./RailRun";
import type { MountKind } from "./mountKind";
import { DrawRail } from "./DrawRail";
import { type Of, type SettingsProps, mount } from "./mounting";

function RailSettings({ camera, rail, path, row, locked }: SettingsProps & { rail: Of<"rail"> }) {
  const [beside, setBeside] = useState(3);
  const character = useSession((s) => chosenCharacter(s)?.name) ?? "the character";
  const points = rail.points as [number, number, number][];
  const set = (changed: Partial<Of<"rail">>) => mount(camera, { ...rail, ...changed }, false);
  const setBump = (index: number, changed: Partial<(typeof rail.bumps)[number]>) =>
    set({ bumps: rail.bumps.map((b, i) => (i === index ? { ...b, ...changed } : b)) });
  return (
    <>
      <RailRun camera={camera} path={path} row={row} locked={locked} />
      <KeyOnFrame camera={camera} path={path} row={row} names={["rail"]} what="run" />
      <div className="actions">
        {(["even", "ease", "abreast"] as const).map((pace) => (
          <Button key={pace} disabled={locked} title={PACES[pace].title} onClick={() => run(camera, pace)}>
            {pace === "abreast" ? `With ${character}` : PACES[pace].label}
          </Button>
        ))}
      </div>
      <div className="actions">
        <DrawRail camera={camera} locked={locked} />
        <Button disabled={locked} onClick={() => lay(camera, "straight")}>
          Straight
        </Button>
        <Button disabled={locked} onClick={() => lay(camera, "ring")}>
          Ring
        </Button>
        <Button disabled={locked} onClick={() => lay(camera, "square")}>
          Square
        </Button>
      </div>
      <h4>Along {character}’s path</h4>
      <Button
        disabled={locked}
        title="As far beside the path as the camera stands; the picture is kept"
        onClick={() => lay(camera, "beside the path")}
      >
        Through where it stands
      </Button>
      <Fields columns={2}>
        <NumberField
          label="to its left"
          title="How far beside the path the rail is laid; negative to the right"
          value={beside}
          unit="m"
          onSet={setBeside}
        />
        <Button mt={22} disabled={locked} onClick={() => lay(camera, "beside the path", beside)}>
          Over there
        </Button>
      </Fields>
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
      <p className="why">
        Points of the rail are dragged in Roam and on the Plan; Shift lifts, + adds, Alt click removes.
      </p>
      <Numbers>
        <Fields columns={2}>
          <ChannelField
            camera={camera}
            path={path}
            row={row}
            name="rail"
            label="share of the rail"
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
          <div key={index}>
            <Fields columns={3}>
              <NumberField
                label="bump at"
                value={bump.at * 100}
                unit="%"
                digits={1}
                disabled={locked}
                onSet={(v) => setBump(index, { at: v / 100 })}
              />
              <NumberField
                label="high"
                value={bump.height_m * 1000}
                unit="mm"
                digits={1}
                disabled={locked}
                onSet={(v) => setBump(index, { height_m: v / 1000 })}
              />
              <NumberField
                label="long"
                value={bump.length_m}
                unit="m"
                disabled={locked}
                onSet={(length_m) => setBump(index, { length_m })}
              />
            </Fields>
            <button
              className="toggle"
              disabled={locked}
              onClick={() => set({ bumps: rail.bumps.filter((_, i) => i !== index) })}
            >
              take this bump away
            </button>
          </div>
        ))}
      </Numbers>
    </>
  );
}

const PACES = {
  even: { label: "Even run", title: "All of the rail at one speed, over the whole scene" },
  ease: { label: "Ease at both ends", title: "All of the rail, setting off and arriving slowly" },
  abreast: { label: "", title: "Beside the character on every frame, without the sway of its steps" },
};

function run(camera: CameraView, pace: keyof typeof PACES): void {
  const state = session();
  const { first, last } = state.scene!;
  const character_id = chosenCharacter(state)?.id ?? null;
  edit({ edit: "run rail evenly", camera_id: camera.id, first, last, pace, character_id });
}

function lay(
  camera: CameraView,
  shape: "straight" | "ring" | "square" | "beside the path",
  side: number | null = null,
): void {
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

const RAIL: MountKind<"rail"> = {
  kind: "rail",
  place: 2,
  settings: (rail, props) => <RailSettings {...props} rail={rail} />,
};

export const KINDS = [RAIL];
