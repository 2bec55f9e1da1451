/** All keys, by what they are for. */
import { Modal } from "@mantine/core";
import { setSession, useSession } from "../state/session";
import { SHORTCUTS } from "./shortcuts";

const GROUPS = [...new Set(SHORTCUTS.map((s) => s.group))];

export function HelpDialog() {
  const open = useSession((s) => s.helpOpen);
  return (
    <Modal
      opened={open}
      onClose={() => setSession({ helpOpen: false })}
      title="Keys and gestures"
      size={1140}
    >
      <div style={{ columns: 3, columnGap: 36 }}>
        {GROUPS.map((group) => (
          <section key={group} style={{ breakInside: "avoid", marginBottom: 14 }}>
            <b>{group}</b>
            {SHORTCUTS.filter((s) => s.group === group).map((s) => (
              <div key={s.keys} className="figure">
                <span>{s.label}</span>
                <kbd>{s.keys}</kbd>
              </div>
            ))}
          </section>
        ))}
        <section style={{ breakInside: "avoid" }}>
          <b>In the Picture</b>
          <Gesture label="Go round the joint or character" keys="drag" />
          <Gesture label="Slide" keys="Shift drag" />
          <Gesture label="Turn on the spot" keys="Ctrl drag" />
          <Gesture label="Roll" keys="Alt drag" />
          <Gesture label="Move in and out" keys="wheel" />
          <Gesture label="Choose a joint for its arc" keys="click" />
        </section>
      </div>
      <p className="why">
        In Roam these move only your own view. Through a camera they move the camera, if it is unlocked.
      </p>
    </Modal>
  );
}

function Gesture({ label, keys }: { label: string; keys: string }) {
  return (
    <div className="figure">
      <span>{label}</span>
      <kbd>{keys}</kbd>
    </div>
  );
}
