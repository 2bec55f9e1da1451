/** How is it carried? The mount, its settings and its channels. */
import { Button, Select } from "@mantine/core";
import type { CameraPart, CameraView } from "../../../api/generated";
import { edit } from "../../../state/edits";
import { useSession } from "../../../state/session";
import { MOUNT_KINDS } from "./mountKind";
import { carry } from "./mounting";

export function MountSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const locked = camera.locks.includes("place");
  const characters = useSession((s) => s.scene!.characters);
  const current = MOUNT_KINDS.find((kind) => kind.kind === camera.mount.kind);
  return (
    <>
      <Select
        aria-label="Mount"
        data={MOUNT_KINDS.map(({ kind }) => ({
          value: kind,
          label: camera.mounts_left.includes(kind) ? `${kind}, as it was left` : kind,
        }))}
        value={camera.mount.kind}
        allowDeselect={false}
        disabled={locked}
        onChange={(kind) => {
          const chosen = MOUNT_KINDS.find((known) => known.kind === kind);
          if (chosen && chosen.kind !== camera.mount.kind) carry(camera, chosen.kind);
        }}
      />
      {current?.settings(camera.mount, { camera, path, row, locked })}
      {characters.length > 0 && (
        <Select
          label="Moves"
          size="xs"
          mt={8}
          data={[
            { value: "", label: "on ones" },
            ...characters.map(({ id, name }) => ({ value: id, label: `with the poses of ${name}` })),
          ]}
          value={camera.steps_with ?? ""}
          allowDeselect={false}
          disabled={camera.locks.includes("place") || camera.locks.includes("angles")}
          onChange={(id) => edit({ edit: "hold camera", camera_id: camera.id, character_id: id || null })}
        />
      )}
      {camera.mount.kind !== "free" && (
        <div className="actions">
          <Button
            disabled={locked}
            title="A new one where the camera stands on this frame; the picture is kept"
            onClick={() => carry(camera, camera.mount.kind, true)}
          >
            Begin it afresh here
          </Button>
        </div>
      )}
    </>
  );
}
