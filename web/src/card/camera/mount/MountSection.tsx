/** How is it carried? The mount, its settings and its channels. */
import { Select } from "@mantine/core";
import type { CameraPart, CameraView } from "../../../api/generated";
import { Fields } from "../../../widgets/NumberField";
import { SubjectPicker } from "../../SubjectPicker";
import { ChannelField } from "../ChannelField";
import { AttachmentSettings } from "./AttachmentSettings";
import { CraneSettings } from "./CraneSettings";
import { FollowsSwitch } from "./FollowsSwitch";
import { RailSettings } from "./RailSettings";
import { type Kind, mount, toKind } from "./mounting";

const KINDS: { value: Kind; label: string }[] = [
  { value: "free", label: "free" },
  { value: "rail", label: "rail" },
  { value: "crane", label: "crane" },
  { value: "orbit", label: "orbit" },
  { value: "carried", label: "carried" },
  { value: "trailing", label: "trailing" },
];

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
