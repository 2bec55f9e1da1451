/** Hand over: the shot and its figures in open formats, and what a format cannot carry. */
import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import { exportNotes } from "../api/client";
import { chosenCharacter, judgedThing, useSession } from "../state/session";

export function HandOverCard() {
  const scene = useSession((s) => s.scene)!;
  const joint = useSession((s) => s.joint);
  const character = useSession((s) => chosenCharacter(s));
  const judged = useSession((s) => judgedThing(s));
  const [notes, setNotes] = useState<string[]>([]);
  useEffect(() => {
    let current = true;
    exportNotes(scene.id)
      .then((answer) => current && setNotes(answer.notes))
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [scene.id, scene.revision]);
  const href = (what: string, query: Record<string, string> = {}) =>
    `/api/scenes/${scene.id}/exports/${what}?${new URLSearchParams(query)}`;
  return (
    <>
      <h2 className="of-scene">
        Hand over <small>open formats</small>
      </h2>
      <h3>The shot as .glb</h3>
      <p className="why">
        The camera baked on ones; the performance as it is shown, held poses held, riding as it rides.
      </p>
      <Button component="a" href={href("shot.glb")} download>
        Shot as .glb
      </Button>
      {notes.length > 0 && (
        <>
          <h3>What glTF cannot carry</h3>
          <ul className="why" style={{ paddingLeft: 18 }} data-testid="export-notes">
            {notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </>
      )}
      <h3>The figures as CSV</h3>
      <div className="actions">
        <Button
          component="a"
          href={href("slip.csv", { thing: character?.id ?? "" })}
          download
          disabled={!character}
        >
          Slip as CSV
        </Button>
        {character?.corrections && (
          <Button component="a" href={href("corrections.csv", { thing: character.id })} download>
            Corrections as CSV
          </Button>
        )}
        {joint && (
          <Button component="a" href={href("arc.csv", { thing: judged?.id ?? "", joint })} download>
            Arc of {joint} as CSV
          </Button>
        )}
      </div>
      {!joint && <p className="why">Choose a joint under Judge to take out its arc.</p>}
    </>
  );
}
