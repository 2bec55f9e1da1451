/** New cameras in one action each. */
import { Menu } from "@mantine/core";
import { Fragment } from "react";
import { IconPlus } from "@tabler/icons-react";
import {
  makeCameraHere,
  makeFaceCamera,
  makeOverTheShoulder,
  makePointOfView,
  makeReviewSet,
  makeTwoShot,
} from "../state/makeCameras";
import { useSession } from "../state/session";

export function MakeMenu() {
  const characters = useSession((s) => s.scene!.characters);
  const pairs = characters.flatMap((one) =>
    characters.filter((other) => other.id !== one.id).map((other) => ({ one, other })),
  );
  return (
    <Menu position="top-start" width={268}>
      <Menu.Target>
        <button className="through" title="New camera (N makes one where you look from)">
          <IconPlus size={15} />
          <span>new</span>
        </button>
      </Menu.Target>
      <Menu.Dropdown className="make-menu">
        <Menu.Item onClick={makeCameraHere} rightSection={<kbd>N</kbd>}>
          From where I look now
        </Menu.Item>
        {characters.map((character) => (
          <Fragment key={character.id}>
            <Menu.Divider />
            <Menu.Label>{character.name}</Menu.Label>
            <Menu.Item onClick={() => makeFaceCamera(character.id, true)}>Face camera</Menu.Item>
            <Menu.Item onClick={() => makeFaceCamera(character.id, false)}>
              Face camera, its place only
            </Menu.Item>
            <Menu.Item onClick={() => makePointOfView(character.id)}>Point of view</Menu.Item>
            <Menu.Item onClick={() => makeReviewSet(character.id, false)}>
              Review set: front, side, ¾, top
            </Menu.Item>
            <Menu.Item onClick={() => makeReviewSet(character.id, true)}>Review set, parallel</Menu.Item>
          </Fragment>
        ))}
        {pairs.length > 0 && (
          <>
            <Menu.Divider />
            <Menu.Label>Two characters</Menu.Label>
            {pairs.map(({ one, other }) => (
              <Menu.Item key={`${one.id}${other.id}`} onClick={() => makeOverTheShoulder(one.id, other.id)}>
                Over {one.name}’s shoulder at {other.name}
              </Menu.Item>
            ))}
            {pairs.slice(0, pairs.length / 2 + 0.5).map(({ one, other }) => (
              <Menu.Item key={`two ${one.id}${other.id}`} onClick={() => makeTwoShot(one.id, other.id)}>
                Two-shot of {one.name} and {other.name}
              </Menu.Item>
            ))}
          </>
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
