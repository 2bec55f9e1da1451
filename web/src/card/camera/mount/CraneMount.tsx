/** A crane: its arm, base and heading, and what of the arm its head follows. */
import { Fields, NumberField } from "../../../widgets/NumberField";
import { Numbers } from "../../../widgets/Numbers";
import { ChannelField } from "../ChannelField";
import { KeyOnFrame } from "../KeyOnFrame";
import { CraneDrawing } from "./CraneDrawing";
import { SpiritLevel } from "./SpiritLevel";
import type { MountKind } from "./mountKind";
import { type Of, type SettingsProps, mount } from "./mounting";

function CraneSettings({ camera, crane, path, row, locked }: SettingsProps & { crane: Of<"crane"> }) {
  const set = (changed: Partial<Of<"crane">>, keep = false) => mount(camera, { ...crane, ...changed }, keep);
  return (
    <>
      <p className="why">From the side, and from above: drag the head, or the top of its stand.</p>
      <CraneDrawing camera={camera} crane={crane} path={path} row={row} locked={locked} />
      <SpiritLevel
        label="The head stays level"
        isLevel={!crane.follow_pitch}
        lean={path.values.arm_pitch![row]!}
        locked={locked}
        words={["the head stays level", "it leans with the arm"]}
        onToggle={() => set({ follow_pitch: !crane.follow_pitch }, true)}
      />
      <SpiritLevel
        label="The head keeps its heading"
        isLevel={!crane.follow_yaw}
        lean={path.values.arm_yaw![row]!}
        locked={locked}
        words={["it keeps its heading", "it turns with the swing"]}
        onToggle={() => set({ follow_yaw: !crane.follow_yaw }, true)}
      />
      <KeyOnFrame
        camera={camera}
        path={path}
        row={row}
        names={["arm_pitch", "arm_yaw", "arm_length"]}
        what="arm"
      />
      <Numbers>
        <Fields columns={3}>
          <ChannelField camera={camera} path={path} row={row} name="arm_pitch" digits={1} />
          <ChannelField camera={camera} path={path} row={row} name="arm_yaw" digits={1} />
          <ChannelField camera={camera} path={path} row={row} name="arm_length" />
        </Fields>
        <Fields columns={2}>
          {(["x", "y", "z"] as const).map((axis, index) => (
            <NumberField
              key={axis}
              label={`base ${axis}`}
              value={crane.base[index]!}
              unit="m"
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
      </Numbers>
    </>
  );
}

const CRANE: MountKind<"crane"> = {
  kind: "crane",
  place: 3,
  settings: (crane, props) => <CraneSettings {...props} crane={crane} />,
};

export const KINDS = [CRANE];
