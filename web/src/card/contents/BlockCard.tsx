/** A scene that plays inside: when, where, with what; it is changed where it is, which is a step away. */
import "./contents.css";
import { Button } from "@mantine/core";
import type { SceneView } from "../../api/generated";
import { thingsOf } from "../../marks/thingHandles";
import { chooseThing } from "../../state/contents";
import { edit } from "../../state/edits";
import { goTo } from "../../state/playback";
import { notify, session, useSession } from "../../state/session";
import { goToScene } from "../../state/within";
import { Fields, NumberField } from "../../widgets/NumberField";
import { CardName, PlaceFields, TakeOutButton } from "./CardHead";

type Block = SceneView["blocks"][number];

export function BlockCard({ block }: { block: Block }) {
  const scene = useSession((s) => s.scene)!;
  const came = thingsOf(scene).filter((thing) => thing.block_id === block.id);
  const heard = scene.sounds.filter(({ sound }) => sound.nested?.block_id === block.id);
  const move = (changes: { start?: number; values?: Record<string, number>; name?: string }) =>
    edit({ edit: "move block", block_id: block.id, ...changes });
  const takeOut = (letsGo: boolean) => {
    chooseThing(null);
    edit({ edit: "take out block", block_id: block.id, frame: session().frame, lets_go: letsGo });
    notify(
      letsGo
        ? `“${block.name}” is out; what went by it has let go and stays where it was on this frame. Ctrl Z brings all back.`
        : `“${block.name}” is out of this scene. Ctrl Z brings it back.`,
    );
  };
  return (
    <div className="thing-card">
      <div className="camera-name of-piece">
        <CardName name={block.name} rename={(name) => move({ name })} />
        <TakeOutButton goneBy={block.gone_by} takeOut={takeOut} />
      </div>
      <p className="why">
        The scene {block.scene_name === block.name ? "" : `“${block.scene_name}” `}plays inside this one. What
        comes with it is changed there, and changes here at once.
      </p>
      <div className="actions">
        <Button
          variant="filled"
          onClick={() => goToScene(block.scene_id, { scene_id: scene.id, block_id: block.id })}
        >
          Open in place
        </Button>
      </div>
      <h3>When does it play?</h3>
      <Fields columns={2}>
        <NumberField
          label="begins on"
          value={block.first}
          unit=""
          digits={0}
          step={1}
          onSet={(start) => move({ start: Math.round(start) })}
        />
        <Button onClick={() => move({ start: session().frame })} title="It begins on this frame">
          On this frame
        </Button>
      </Fields>
      <p className="why">
        Frames{" "}
        <button className="link" onClick={() => goTo(block.first)}>
          {block.first}
        </button>{" "}
        to{" "}
        <button className="link" onClick={() => goTo(block.last)}>
          {block.last}
        </button>
        {block.last > scene.last && `, of which the scene shows those to ${scene.last}`}.
      </p>
      <h3>Where does it stand?</h3>
      <PlaceFields at={block.ground} place={(values) => move({ values })} />
      <h3>What comes with it?</h3>
      <p className="why" data-testid="came">
        {[...came.map(({ name }) => name), ...heard.map(({ sound }) => `${sound.name} (sound)`)].join(", ") ||
          "Nothing yet."}
        {came.length > 0 && ". Cameras can go by any of it, and it is judged as all else is."}
      </p>
    </div>
  );
}
