/** Who holds a prop: from which frame on, by which joint; or put down where it is. Nothing jumps where it changes hands. */
import { Select } from "@mantine/core";
import type { PieceView, RigPart } from "../../api/generated";
import { useCalmFrame } from "../../state/calmFrame";
import { edit } from "../../state/edits";
import { goTo } from "../../state/playback";
import { part, session, useSession } from "../../state/session";
import { holderOf } from "../../marks/thingHandles";

type Hold = PieceView["holds"][number];

export function HoldSection({ piece }: { piece: PieceView }) {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const frame = useCalmFrame();
  const holder = holderOf(piece, frame);
  const nameOf = (id: string | null) => scene.characters.find((c) => c.id === id)?.name ?? "";
  const choices = scene.characters.map((character) => ({
    group: character.name,
    items: [...new Set(part<RigPart>({ parts }, character.rig)?.joints ?? [])].map((joint) => ({
      value: `${character.id} ${joint}`,
      label: `${character.name} ${joint}`,
    })),
  }));
  const hold = (holds: Hold[]) =>
    edit({ edit: "hold prop", piece_id: piece.id, holds: holds.sort((a, b) => a.first - b.first) });
  const from = (taken: Omit<Hold, "first">) => {
    const first = session().frame;
    hold([...piece.holds.filter((h) => h.first !== first), { first, ...taken }]);
  };
  return (
    <>
      <h3>Who holds it?</h3>
      <Select
        aria-label="Taken on this frame by"
        placeholder={
          holder?.joint
            ? `in hand: ${nameOf(holder.character_id)} ${holder.joint}`
            : "taken on this frame by…"
        }
        data={choices}
        value={null}
        searchable
        onChange={(value) => {
          if (!value) return;
          const [character_id, ...joint] = value.split(" ");
          from({ character_id: character_id!, joint: joint.join(" ") });
        }}
      />
      {holder?.character_id && (
        <div className="placements">
          <button className="toggle" onClick={() => from({ character_id: null, joint: null })}>
            put down on this frame
          </button>
        </div>
      )}
      {piece.holds.length === 0 && (
        <p className="why">
          Nobody. Go to the frame on which it is taken, put it where the hand is, and say by which joint.
        </p>
      )}
      {piece.holds.map((each) => (
        <div key={each.first} className="saved-view">
          <button className="toggle" onClick={() => goTo(each.first)}>
            {each.first}
          </button>
          <span style={{ flex: 1 }}>
            {each.joint ? `${nameOf(each.character_id)} ${each.joint}` : "put down"}
          </span>
          <button
            className="toggle"
            aria-label={`No change of hands on ${each.first}`}
            onClick={() => hold(piece.holds.filter((h) => h !== each))}
          >
            ×
          </button>
        </div>
      ))}
    </>
  );
}
