/** A crane: its arm, base and heading, and what of the arm its head follows. */
import { Switch } from "@mantine/core";
import { Fields, NumberField } from "../../../widgets/NumberField";
import { ChannelField } from "../ChannelField";
import type { MountKind } from "./mountKind";
import { type Of, type SettingsProps, mount, poseNow } from "./mounting";

function CraneSettings({ camera, crane, path, row, locked }: SettingsProps & { crane: Of<"crane"> }) {
  const set = (changed: Partial<Of<"crane">>, keep = false) => mount(camera, { ...crane, ...changed }, keep);
  return (
    <>
      <Fields columns={3}>
        <ChannelField camera={camera} path={path} row={row} name="arm_pitch" digits={1} />
        <ChannelField camera={camera} path={path} row={row} name="arm_yaw" digits={1} />
        <ChannelField camera={camera} path={path} row={row} name="arm_length" />
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

const BEHIND_M = 3;
const BASE_HEIGHT_M = 0.9;

const CRANE: MountKind<"crane"> = {
  kind: "crane",
  place: 3,
  settings: (crane, props) => <CraneSettings {...props} crane={crane} />,
  begin: (camera, path) => {
    // The base behind where the camera looks from, on the ground.
    const { x, z, pan } = poseNow(path);
    const turn = (pan * Math.PI) / 180;
    const base: [number, number, number] = [
      x - BEHIND_M * Math.sin(turn),
      BASE_HEIGHT_M,
      z + BEHIND_M * Math.cos(turn),
    ];
    mount(camera, { kind: "crane", base, heading: pan, follow_pitch: false, follow_yaw: false }, true);
  },
};

export const KINDS = [CRANE];
