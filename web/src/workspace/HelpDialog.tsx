/** All keys and gestures, by what they are for. */
import { Modal } from "@mantine/core";
import { setSession, useSession } from "../state/session";
import type { Shortcut } from "./shortcut";
import { SHORTCUTS } from "./shortcuts";

const COLUMNS: Shortcut["group"][][] = [
  ["Time", "Cut", "Camera"],
  ["Looking"],
  ["Moving", "Keys"],
  ["Judging", "Window"],
];
const GESTURES: [string, string][] = [
  ["Go round the joint or character", "drag"],
  ["Slide", "Shift drag"],
  ["Turn on the spot", "Ctrl drag"],
  ["Roll", "Alt drag"],
  ["Move in and out", "wheel"],
  ["Choose a joint for its arc", "click"],
  ["Lift a handle, in Roam or Plan", "Shift drag it"],
  ["Take a rail point away", "Alt click it"],
  ["Move a cut, in the Sheet", "drag its edge"],
  ["Slide a shot, in the Sheet", "Shift drag it"],
  ["Choose keys, in the Sheet", "drag around them"],
  ["Stretch them about the playhead", "Alt drag one"],
  ["Keep to poses and cuts", "Ctrl, dragging"],
  ["Hide a stretch, in the Sheet's layers", "Alt drag it"],
];

export function HelpDialog() {
  const open = useSession((s) => s.helpOpen);
  return (
    <Modal
      opened={open}
      onClose={() => setSession({ helpOpen: false })}
      title="Keys and gestures"
      size={1240}
    >
      <div className="help-columns">
        {COLUMNS.map((groups) => (
          <div key={groups[0]}>
            {groups.map((group) => (
              <Group
                key={group}
                title={group}
                rows={SHORTCUTS.filter((s) => s.group === group).map((s) => [s.label, s.keys])}
              />
            ))}
            {groups.includes("Looking") && <Group title="With the pointer" rows={GESTURES} />}
          </div>
        ))}
      </div>
      <p className="why">
        In Roam these move only your own view. Through a camera they move the camera, if it is unlocked.
      </p>
    </Modal>
  );
}

function Group({ title, rows }: { title: string; rows: [string, string][] }) {
  return (
    <section>
      <b>{title}</b>
      {rows.map(([label, keys]) => (
        <div key={label} className="figure">
          <span>{label}</span>
          <kbd>{keys}</kbd>
        </div>
      ))}
    </section>
  );
}
