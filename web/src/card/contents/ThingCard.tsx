/** A character, prop or set piece, by question: what it is, where it stands, when it is there, who holds it. */
import "./contents.css";
import { ActionIcon, Button } from "@mantine/core";
import { IconCopy } from "@tabler/icons-react";
import type { PlacingPart } from "../../api/generated";
import { type Thing, isPiece, standOf } from "../../marks/thingHandles";
import { askForFile, chooseThing } from "../../state/contents";
import { edit } from "../../state/edits";
import { goTo } from "../../state/playback";
import { useCalmFrame } from "../../state/calmFrame";
import { notify, part, session, useSession } from "../../state/session";
import { Fields, NumberField } from "../../widgets/NumberField";
import { CardName, PlaceFields, TakeOutButton } from "./CardHead";
import { HoldSection } from "./HoldSection";
import { ShowingSection } from "./ShowingSection";
import { OtherUses } from "./OtherUses";
import { TimingSection } from "./TimingSection";
import { VersionsSection } from "./VersionsSection";

export function ThingCard({ thing }: { thing: Thing }) {
  const piece = isPiece(thing) ? thing : null;
  const { source } = thing;
  const rig = useSession((s) => s.parts.get(thing.rig));
  const notes = rig && "notes" in rig ? (rig.notes as string[]) : [];
  return (
    <div className="thing-card">
      <ThingHead thing={thing} />
      <h3>What is it?</h3>
      {piece && (
        <div className="choices of-piece" role="group" aria-label="Prop or set piece">
          {(["prop", "set piece"] as const).map((kind) => (
            <button
              key={kind}
              aria-pressed={piece.kind === kind}
              onClick={() =>
                piece.kind !== kind && edit({ edit: "set piece kind", piece_id: piece.id, kind })
              }
            >
              {kind}
            </button>
          ))}
        </div>
      )}
      <Fields columns={2}>
        <NumberField
          label="scale"
          value={source.scale}
          unit=""
          digits={4}
          step={0.01}
          min={1e-6}
          max={1e6}
          title="Metres per unit of its file"
          onSet={(scale) => edit({ edit: "scale thing", thing_id: thing.id, scale })}
        />
      </Fields>
      <TimingSection thing={thing} />
      <OtherUses thing={thing} />
      <div className="actions">
        <Button onClick={() => askForFile(thing.id)}>{piece ? "Another file…" : "Next version…"}</Button>
      </div>
      {!isPiece(thing) && thing.versions.length > 1 && <VersionsSection character={thing} />}
      {thing.file_cameras.length > 0 && <FileCameras thing={thing} />}
      {notes.map((note) => (
        <p key={note} className="why">
          {note}
        </p>
      ))}
      <StandSection thing={thing} />
      {piece?.kind === "prop" && <HoldSection piece={piece} />}
      <ShowingSection thing={thing} />
    </div>
  );
}

/** Each becomes a camera of the scene, where this stands now. */
function FileCameras({ thing }: { thing: Thing }) {
  const bring = (camera: string, error_px: number | null) => {
    edit({ edit: "bring file camera", camera_id: crypto.randomUUID(), thing_id: thing.id, camera, error_px });
    notify(`“${camera}” is on the Bench, as ${thing.name} stands now. Ctrl Z takes it out.`);
  };
  return (
    <>
      <h3>Cameras of its file</h3>
      {thing.file_cameras.map((camera) => (
        <div key={camera} className="saved-view">
          <span style={{ flex: 1 }}>{camera}</span>
          <button
            className="toggle"
            title="As few keys as keep the picture within 0.1 px"
            onClick={() => bring(camera, 0.1)}
          >
            few keys
          </button>
          <button className="toggle" onClick={() => bring(camera, null)}>
            a key a frame
          </button>
        </div>
      ))}
    </>
  );
}

function ThingHead({ thing }: { thing: Thing }) {
  const double = () => {
    const new_id = crypto.randomUUID();
    edit({ edit: "double thing", thing_id: thing.id, new_id });
    chooseThing(new_id);
    notify(`${thing.name} is there twice: the new one stands a metre beside it.`);
  };
  const takeOut = (letsGo: boolean) => {
    chooseThing(null);
    edit({ edit: "take out", thing_id: thing.id, frame: session().frame, lets_go: letsGo });
    notify(
      letsGo
        ? `${thing.name} is out; what went by it has let go and stays where it was on this frame. Ctrl Z brings all back.`
        : `${thing.name} is out of the scene. Ctrl Z brings it back.`,
    );
  };
  return (
    <div className={isPiece(thing) ? "camera-name of-piece" : "camera-name of-character"}>
      <CardName
        name={thing.name}
        rename={(name) => edit({ edit: "rename thing", thing_id: thing.id, name })}
      />
      <ActionIcon variant="subtle" color="gray" aria-label="Duplicate" title="Duplicate" onClick={double}>
        <IconCopy size={16} />
      </ActionIcon>
      <TakeOutButton goneBy={thing.gone_by} takeOut={takeOut} />
    </div>
  );
}

function StandSection({ thing }: { thing: Thing }) {
  const frame = useCalmFrame();
  const state = useSession();
  const placing = part<PlacingPart>(state, thing.placing);
  const stand = standOf({ ...state, frame }, thing);
  if (!stand || !placing) return null;
  const keys = [...placing.key_frames];
  const place = (values: Record<string, number>) =>
    edit({ edit: "place thing", thing_id: thing.id, values, time: String(session().frame) });
  return (
    <>
      <h3>Where does it stand?</h3>
      <PlaceFields at={stand} place={place} />
      <div className="actions">
        <Button
          onClick={() => {
            edit({ edit: "key thing", thing_id: thing.id, time: String(session().frame) });
            notify(`${thing.name} has a key of its place on ${session().frame}.`);
          }}
        >
          Set key
        </Button>
        {keys.length > 0 && (
          <Button
            onClick={() => edit({ edit: "delete thing keys", thing_id: thing.id, time: null, frame })}
            title="It stands where it is on this frame"
          >
            No keys
          </Button>
        )}
        <Button onClick={() => place({ y: 0 })} title="Height 0">
          On the ground
        </Button>
      </div>
      <p className="why">
        {keys.length
          ? "Moved on a frame, it is keyed there. Keys: "
          : "It stands still beside its own motion. Drag its mark in the Picture, in Roam or on the Plan; a key lets it travel."}
        {keys.map((key) => (
          <span key={key} className="key-chip">
            <button className="toggle" onClick={() => goTo(key)}>
              {key}
            </button>
            <button
              className="toggle"
              aria-label={`Delete the key on ${key}`}
              onClick={() =>
                edit({ edit: "delete thing keys", thing_id: thing.id, time: String(key), frame })
              }
            >
              ×
            </button>
          </span>
        ))}
      </p>
    </>
  );
}
