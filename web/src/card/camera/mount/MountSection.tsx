/** How is it carried? The mount, its settings and its channels. */
import { Select } from "@mantine/core";
import type { CameraPart, CameraView } from "../../../api/generated";
import { MOUNT_KINDS } from "./mountKind";

export function MountSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const locked = camera.locks.includes("place");
  const current = MOUNT_KINDS.find((kind) => kind.kind === camera.mount.kind);
  return (
    <>
      <Select
        aria-label="Mount"
        data={MOUNT_KINDS.map(({ kind }) => kind)}
        value={camera.mount.kind}
        allowDeselect={false}
        disabled={locked}
        onChange={(kind) => {
          if (kind !== camera.mount.kind)
            MOUNT_KINDS.find((known) => known.kind === kind)?.begin(camera, path);
        }}
      />
      {current?.settings(camera.mount, { camera, path, row, locked })}
    </>
  );
}
