/** A fix: shown in the Picture, with what it would make better and worse, while the hand is on it; taken with a click. */
import "./fixButton.css";
import { Button, Popover } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { type Edit, effectOf } from "../api/client";
import type { ChangeView, FixView } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { edit } from "../state/edits";
import { cancelPreview, preview } from "../state/previews";
import { amountOf } from "../state/readingText";
import { session } from "../state/session";
import { report } from "../state/shown";

const REST_MS = 350;

export function FixButton({ fix }: { fix: FixView }) {
  const [changes, setChanges] = useState<ChangeView[] | null>(null);
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  const resting = useRef(false);
  const showing = useRef(false);
  const end = () => {
    clearTimeout(rest.current);
    resting.current = false;
    setChanges(null);
    if (showing.current) cancelPreview();
    showing.current = false;
  };
  const begin = () => {
    clearTimeout(rest.current);
    resting.current = true;
    rest.current = setTimeout(() => {
      const { scene, gesturing, waiting, matching, trying, playing } = session();
      if (!scene || gesturing || waiting || matching || trying || playing) return;
      const change = onThisFrame(fix.edit);
      showing.current = true;
      preview(change);
      effectOf(scene.id, change)
        .then((found) => showing.current && setChanges(found))
        .catch(report);
    }, REST_MS);
  };
  // Gone from under the hand: what it showed goes as well.
  useEffect(() => end, []);
  return (
    <Popover opened={changes !== null} position="top-end" width={250} withArrow>
      <Popover.Target>
        <Button
          title={fix.does}
          // What comes to lie under a hand at rest is not pointed at.
          onPointerMove={(event) => {
            if (!resting.current && (event.movementX || event.movementY)) begin();
          }}
          onPointerLeave={end}
          onFocus={begin}
          onBlur={end}
          onClick={() => {
            clearTimeout(rest.current);
            showing.current = false;
            setChanges(null);
            edit(onThisFrame(fix.edit));
          }}
        >
          {fix.title}
        </Button>
      </Popover.Target>
      <Popover.Dropdown className="effect" data-testid="effect">
        {changes && <Effect changes={changes} />}
      </Popover.Dropdown>
    </Popover>
  );
}

function Effect({ changes }: { changes: ChangeView[] }) {
  const bad = changes.filter(({ status }) => status === "new" || status === "worse");
  return (
    <>
      <ul>
        {changes.map(({ status, reading, was }, index) => (
          <li key={index}>
            <b>{status}</b> {READING_TITLES[reading.kind]}{" "}
            <span className="mono">
              {was && `${amountOf(was)} → `}
              {amountOf(reading)}
            </span>
          </li>
        ))}
        {!changes.length && <li>No reading of the cut becomes better or worse.</li>}
      </ul>
      <p className="soft">{bad.length ? "" : "Raises nothing. "}Shown in the Picture; a click takes it.</p>
    </>
  );
}

/** An edit that keeps the picture on a frame keeps it on the one that is looked at. */
function onThisFrame(change: Edit): Edit {
  return "frame" in change ? { ...change, frame: session().frame } : change;
}
