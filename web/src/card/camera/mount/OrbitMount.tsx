/** An orbit: its pivot, and where it stands around it. */
import { Fields } from "../../../widgets/NumberField";
import { SubjectPicker } from "../../SubjectPicker";
import { ChannelField } from "../ChannelField";
import { FollowsSwitch } from "./FollowsSwitch";
import type { MountKind } from "./mountKind";
import { type Of, type SettingsProps, mount } from "./mounting";

function OrbitSettings({ camera, orbit, path, row, locked }: SettingsProps & { orbit: Of<"orbit"> }) {
  return (
    <>
      <SubjectPicker
        label="Pivot"
        subject={orbit.pivot}
        disabled={locked}
        onChoose={(pivot) => mount(camera, { ...orbit, pivot }, true)}
      />
      <Fields columns={3}>
        <ChannelField camera={camera} path={path} row={row} name="azimuth" digits={1} />
        <ChannelField camera={camera} path={path} row={row} name="elevation" digits={1} />
        <ChannelField camera={camera} path={path} row={row} name="distance" />
      </Fields>
      <FollowsSwitch
        value={orbit.follows}
        disabled={locked}
        onChange={(follows) => mount(camera, { ...orbit, follows }, true)}
      />
    </>
  );
}

const ORBIT: MountKind<"orbit"> = {
  kind: "orbit",
  place: 4,
  settings: (orbit, props) => <OrbitSettings {...props} orbit={orbit} />,
};

export const KINDS = [ORBIT];
