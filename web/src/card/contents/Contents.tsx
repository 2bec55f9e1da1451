/** What is in the scene: the camera that is worked on, characters, props and set pieces; and how more come in. */
import { Menu } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import { isPiece, thingsOf } from "../../marks/thingHandles";
import { STAND_INS, askForFile, bringStandIn, chooseThing, type Shape } from "../../state/contents";
import { useSession, workedCamera } from "../../state/session";

export function Contents() {
  const scene = useSession((s) => s.scene)!;
  const thingId = useSession((s) => s.thingId);
  const camera = useSession((s) => workedCamera(s)?.name);
  return (
    <div className="contents" role="group" aria-label="What is in the scene">
      <button className="content of-camera" aria-pressed={!thingId} onClick={() => chooseThing(null)}>
        {camera ?? "camera"}
      </button>
      {thingsOf(scene).map((thing) => (
        <button
          key={thing.id}
          className={isPiece(thing) ? "content" : "content of-character"}
          title={isPiece(thing) ? thing.kind : "character"}
          aria-pressed={thing.id === thingId}
          onClick={() => chooseThing(thing.id)}
        >
          {thing.name}
        </button>
      ))}
      <Menu position="bottom-end" width={230}>
        <Menu.Target>
          <button className="content" aria-label="Bring in" title="Bring in a character, prop or set piece">
            <IconPlus size={13} />
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => askForFile()} rightSection={<kbd>U</kbd>}>
            From a file…
          </Menu.Item>
          <Menu.Divider />
          <Menu.Label>Stand-ins</Menu.Label>
          {(Object.keys(STAND_INS) as Shape[]).map((shape) => (
            <Menu.Item key={shape} onClick={() => void bringStandIn(shape)}>
              {shape[0]!.toUpperCase() + shape.slice(1)}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}
