/**
 * What is in the scene: the camera that is worked on, characters, props and set pieces, scenes that play inside; and how more
 * come in.
 */
import "./contents.css";
import { Menu } from "@mantine/core";
import { IconPictureInPicture, IconPlus } from "@tabler/icons-react";
import { useState } from "react";
import { isPiece, thingsOf } from "../../marks/thingHandles";
import { bringInScene, useOtherScenes } from "../../state/blocks";
import { STAND_INS, askForFile, bringStandIn, chooseThing, type Shape } from "../../state/contents";
import { chosenBlock } from "../../state/chosenBlock";
import { useSession, workedCamera } from "../../state/session";

export function Contents() {
  const scene = useSession((s) => s.scene)!;
  const thingId = useSession((s) => s.thingId);
  const block = useSession(chosenBlock);
  const camera = useSession((s) => workedCamera(s)?.name);
  return (
    <div className="contents" role="group" aria-label="What is in the scene">
      <button className="content of-camera" aria-pressed={!thingId} onClick={() => chooseThing(null)}>
        {camera ?? "camera"}
      </button>
      {thingsOf(scene)
        .filter((thing) => !thing.block_id)
        .map((thing) => (
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
      {scene.blocks.map(({ id, name }) => (
        <button
          key={id}
          className="content of-block"
          title="A scene that plays inside this one"
          aria-pressed={id === block?.id}
          onClick={() => chooseThing(id)}
        >
          <IconPictureInPicture size={12} /> {name}
        </button>
      ))}
      <BringInMenu />
    </div>
  );
}

function BringInMenu() {
  const [isOpen, setOpen] = useState(false);
  const others = useOtherScenes(isOpen);
  return (
    <Menu position="bottom-end" width={230} onChange={setOpen}>
      <Menu.Target>
        <button
          className="content"
          aria-label="Bring in"
          title="Bring in a character, prop, set piece or scene"
        >
          <IconPlus size={13} />
        </button>
      </Menu.Target>
      <Menu.Dropdown mah={460} style={{ overflowY: "auto" }}>
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
        {others.length > 0 && (
          <>
            <Menu.Divider />
            <Menu.Label>Playing inside, from this frame on</Menu.Label>
            {others.map((other) => (
              <Menu.Item
                key={other.id}
                onClick={() => bringInScene(other)}
                leftSection={<IconPictureInPicture size={13} />}
              >
                {other.name}
              </Menu.Item>
            ))}
          </>
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
