/** A file as the next version of a performance: what that would make better and worse, before it is brought in. */
import { Button, Checkbox, Loader, Modal, Select, Switch } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { nextVersion } from "../api/client";
import type { Inspection, NextVersionView } from "../api/generated";
import { Changes } from "../widgets/Changes";
import { edit } from "../state/edits";
import { thingsOf } from "../marks/thingHandles";
import { notify, useSession } from "../state/session";
import { changeAt, useOtherUses, titleOfUse } from "../state/uses";

interface NextVersionProps {
  found: Inspection;
  sceneId: string;
  onClose: () => void;
  /** It is to be a scene of its own. */
  onApart: () => void;
  /** It is to come in beside the others. */
  onBeside: () => void;
  /** Whose it is; null: it is found out, and comes in beside the others where it is nobody's. */
  characterId: string | null;
}

export function NextVersion(props: NextVersionProps) {
  const { found, sceneId, characterId, onClose, onApart, onBeside } = props;
  const scene = useSession((s) => s.scene);
  const things = thingsOf(scene);
  const [asked, setAsked] = useState<string | null>(characterId);
  const [told, setTold] = useState<NextVersionView | null>(null);
  // Joints that are not the same under another name, whatever their place says.
  const [lost, setLost] = useState<string[]>([]);
  const [failure, setFailure] = useState<string | null>(null);
  const besides = useRef(onBeside);
  const { digest, format, file_name } = found;
  useEffect(() => {
    let isCurrent = true;
    nextVersion(sceneId, { digest, format, thing_id: asked, file_name, lost })
      .then((answer) => {
        if (!isCurrent) return;
        if (answer.thing_id === null && asked === null) besides.current();
        else setTold(answer);
      })
      .catch((error: Error) => isCurrent && setFailure(error.message));
    return () => {
      isCurrent = false;
    };
  }, [sceneId, digest, format, file_name, asked, lost]);
  const { first, last } = useSession((s) => s.scene!);
  const [lasts, setLasts] = useState(true);
  const endsOtherwise = told?.edit && told.last_after !== told.last_before && told.last_after !== last;
  const whose = asked ?? told?.thing_id ?? null;
  const name = things.find((t) => t.id === whose)?.name;
  const digestOf = things.find((t) => t.id === whose)?.source.digest ?? null;
  const uses = useOtherUses(whose, digestOf);
  const [everywhere, setEverywhere] = useState(true);
  const bring = async () => {
    if (!told?.edit) return;
    // The others first: where this one is seen with the new file, they have it.
    if (everywhere) await Promise.all(uses.map((use) => changeAt(use, told.edit!)));
    edit(told.edit);
    if (endsOtherwise && lasts) edit({ edit: "set play range", first, last: told.last_after });
    const also = everywhere && uses.length ? " The other uses are, too; each is undone in its scene." : "";
    notify(`${name} is the next version now. Ctrl Z goes back to the one before.${also}`);
    onClose();
  };
  const choose = (id: string | null) => {
    setTold(null);
    setFailure(null);
    setLost([]);
    setAsked(id);
  };
  return (
    <Modal opened onClose={onClose} title={`${found.file_name}, ${found.format_title}`} size="lg">
      <Select
        label="The next version of"
        placeholder="nothing of the scene is like it"
        data={things.map((t) => ({ value: t.id, label: t.name }))}
        value={whose}
        allowDeselect={false}
        onChange={choose}
      />
      <p className="why">
        {name ? `The file of ${name} is replaced; ` : "A file would be replaced; "}cameras, cut, exposures,
        places and Ride stay.
      </p>
      {failure && (
        <div className="bar" role="alert">
          {failure}
        </div>
      )}
      {!told && !failure && <Loader size="sm" aria-label="Judging both versions" />}
      {told?.edit && <Joints told={told} lost={lost} onLost={setLost} />}
      {endsOtherwise && (
        <Switch
          mt={8}
          label={`Let the scene end with it, on ${told.last_after} instead of ${last}`}
          checked={lasts}
          onChange={(event) => setLasts(event.currentTarget.checked)}
        />
      )}
      {told?.edit && uses.length > 0 && (
        <Switch
          mt={8}
          label={`also for ${uses.map((use) => titleOfUse(use, sceneId)).join(", ")}, who perform the same file`}
          checked={everywhere}
          onChange={(event) => setEverywhere(event.currentTarget.checked)}
        />
      )}
      {told?.edit && <Changes changes={told.changes} />}
      <div className="actions" style={{ justifyContent: "flex-end", marginTop: 16 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button onClick={onApart}>A scene of its own</Button>
        <Button onClick={onBeside}>One more in this scene</Button>
        <Button variant="filled" disabled={!told?.edit} onClick={() => void bring()}>
          Bring it in
        </Button>
      </div>
    </Modal>
  );
}

const MOST_NAMED = 6;

/** What its hierarchy has more and less. */
function Joints({
  told,
  lost: unlike,
  onLost,
}: {
  told: NextVersionView;
  lost: string[];
  onLost: (names: string[]) => void;
}) {
  const named = (joints: string[]) =>
    joints.length > MOST_NAMED
      ? `${joints.slice(0, MOST_NAMED).join(", ")} and ${joints.length - MOST_NAMED} more`
      : joints.join(", ");
  const { joints_added: added, joints_lost: lost, goes_by_lost: left } = told;
  return (
    <>
      {(told.renamed.length > 0 || unlike.length > 0) && (
        <div className="renamed" data-testid="renamed-joints">
          <h3>The same joint under another name?</h3>
          {told.renamed.map(([before, after]) => (
            <Checkbox
              key={before}
              size="xs"
              checked
              label={`${before} is now ${after}`}
              onChange={() => onLost([...unlike, before!])}
            />
          ))}
          {unlike.map((name) => (
            <Checkbox
              key={name}
              size="xs"
              checked={false}
              label={`${name} is gone`}
              onChange={() => onLost(unlike.filter((other) => other !== name))}
            />
          ))}
        </div>
      )}
      {left.length > 0 && (
        <p className="bar" role="status" data-testid="goes-by-lost">
          {left
            .slice(0, MOST_NAMED)
            .map(([who, joint]) => `${who} goes by ${joint}`)
            .join(", ")}
          {left.length > MOST_NAMED && ` and ${left.length - MOST_NAMED} more`}: not in this file. Each keeps
          it, {told.stands_in} stands in, and the readings say so.
        </p>
      )}
      {added.length > 0 && <p className="why">New joints: {named(added)}.</p>}
      {lost.length > 0 && <p className="why">Joints that are gone: {named(lost)}.</p>}
      {told.last_after !== told.last_before && (
        <p className="why">
          It ends on {told.last_after}; the one before ended on {told.last_before}.
        </p>
      )}
    </>
  );
}
