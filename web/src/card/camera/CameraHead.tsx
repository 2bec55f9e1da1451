/** What a camera is: its name, role and lines, what is locked, and copying or deleting it. */
import { ActionIcon, Button, Popover, SegmentedControl, Select, TextInput } from "@mantine/core";
import { IconCopy, IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { CameraView } from "../../api/generated";
import { LineSwatch } from "../../marks/LineSwatch";
import { LOCK_GROUPS, toggleLockGroup } from "../../state/actions";
import { copyCamera } from "../../state/makeCameras";
import { edit } from "../../state/edits";
import { PATTERN_NAMES, TINTS } from "../../state/lines";
import { lookThroughCut } from "../../state/looking";
import { notify, useSession } from "../../state/session";

export function CameraHead({ camera }: { camera: CameraView }) {
  return (
    <>
      <div className="camera-name">
        <LinesMenu camera={camera} />
        <TextInput
          key={camera.name}
          aria-label="Name of the camera"
          defaultValue={camera.name}
          variant="unstyled"
          styles={{ input: { fontSize: nameSize(camera.name), fontWeight: 600, height: 28, minHeight: 28 } }}
          title={camera.name}
          onBlur={(event) => {
            const name = event.currentTarget.value.trim();
            if (name && name !== camera.name) edit({ edit: "rename camera", camera_id: camera.id, name });
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
          }}
        />
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label="Copy the camera"
          title="Copy (Shift C)"
          onClick={copyCamera}
        >
          <IconCopy size={16} />
        </ActionIcon>
        <DeleteMenu camera={camera} />
      </div>
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="Role"
        value={camera.role}
        data={["shot", "face", "review"]}
        onChange={(role) =>
          edit({ edit: "set camera role", camera_id: camera.id, role: role as CameraView["role"] })
        }
      />
      <div className="lock-row" role="group" aria-label="Locks">
        <span className="soft">lock</span>
        {LOCK_GROUPS.map((group) => (
          <button
            key={group}
            className="toggle"
            aria-pressed={camera.locks.includes(group)}
            onClick={() => toggleLockGroup(camera, group)}
          >
            {group}
          </button>
        ))}
        <button
          className="toggle"
          aria-pressed={camera.locked}
          title="L"
          onClick={() =>
            edit({ edit: "lock camera", camera_id: camera.id, locks: camera.locked ? [] : LOCK_GROUPS })
          }
        >
          all
        </button>
      </div>
      {camera.locked && <p className="why">Locked: nothing moves it. L unlocks.</p>}
    </>
  );
}

/** Long names stay readable whole. */
function nameSize(name: string): number {
  return name.length > 20 ? 12.5 : name.length > 15 ? 14 : 16;
}

function LinesMenu({ camera }: { camera: CameraView }) {
  return (
    <Popover position="bottom-start">
      <Popover.Target>
        <ActionIcon variant="default" aria-label="Its tint and line" title="Its tint and line, everywhere">
          <LineSwatch camera={camera} />
        </ActionIcon>
      </Popover.Target>
      <Popover.Dropdown>
        <div className="line-choices">
          {TINTS.flatMap((_, tint) =>
            PATTERN_NAMES.map((name, pattern) => (
              <button
                key={`${tint}${name}`}
                className="toggle"
                aria-label={`Tint ${tint + 1}, ${name}`}
                aria-pressed={tint === camera.tint && pattern === camera.pattern}
                onClick={() => edit({ edit: "set camera lines", camera_id: camera.id, tint, pattern })}
              >
                <LineSwatch camera={{ tint, pattern }} />
              </button>
            )),
          )}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}

function DeleteMenu({ camera }: { camera: CameraView }) {
  const scene = useSession((s) => s.scene)!;
  const [open, setOpen] = useState(false);
  const [heir, setHeir] = useState<string | null>(null);
  const used = scene.cut.filter((entry) => entry.camera_id === camera.id);
  const others = scene.cameras.filter((c) => c.id !== camera.id);
  const remove = (replaceBy: string | null) => {
    edit({ edit: "delete camera", camera_id: camera.id, replace_by: replaceBy });
    lookThroughCut();
    setOpen(false);
    const heirName = others.find((c) => c.id === replaceBy)?.name;
    notify(
      `${camera.name} is deleted${heirName ? `, ${heirName} has its place in the cut` : ""}. Ctrl Z brings it back.`,
    );
  };
  return (
    <Popover position="bottom-end" opened={open} onChange={setOpen} width={250}>
      <Popover.Target>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label="Delete the camera"
          title="Delete"
          onClick={() => (used.length ? setOpen(!open) : remove(null))}
        >
          <IconTrash size={16} />
        </ActionIcon>
      </Popover.Target>
      <Popover.Dropdown>
        {used.length > 0 && (
          <div style={{ padding: "4px 8px" }}>
            <p className="why">
              The cut uses it from {used.map((e) => e.first).join(", ")}. Another camera has to take its
              place:
            </p>
            {others.length ? (
              <>
                <Select
                  aria-label="Replace it by"
                  data={others.map((other) => ({ value: other.id, label: other.name }))}
                  value={heir}
                  onChange={setHeir}
                  placeholder="choose a camera"
                  searchable
                  allowDeselect={false}
                  comboboxProps={{ withinPortal: false }}
                />
                <Button fullWidth mt={6} disabled={!heir} onClick={() => remove(heir)}>
                  Replace and delete
                </Button>
              </>
            ) : (
              <p className="why">It is the only one. Make another first.</p>
            )}
          </div>
        )}
      </Popover.Dropdown>
    </Popover>
  );
}
