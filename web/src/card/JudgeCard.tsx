/** Judge: one joint's arc and spacing on the screen, at this frame and over the scene. */
import { Button, SegmentedControl, Select, Switch } from "@mantine/core";
import type { ArcJudgementPart, ArcPart, RigPart } from "../api/generated";
import { isPiece, thingsOf } from "../marks/thingHandles";
import { pickInPicture } from "../picture/gestures";
import { askForFile } from "../state/contents";
import { edit } from "../state/edits";
import { refreshView } from "../state/shown";
import { toggleLaidOver } from "../state/laidOver";
import { toggleFreeze } from "../state/looking";
import { keepArc, letArcGo, setLooks, showShare } from "../state/judgingLooks";
import { MOST_ONION, ONION_BY, type OnionBy, REACHES } from "../state/looks";
import { isMeshPoint } from "../state/meshPoints";
import { useCalmFrame } from "../state/calmFrame";
import { SHOWN_AS, judgedThing, judging, part, setSession, useSession } from "../state/session";
import { Corrections } from "./Corrections";
import { SpacingChart } from "./SpacingChart";
import { JointActions } from "./JointActions";
import { Figure, PixelsOf, px } from "../widgets/Figure";
import { Fields, NumberField } from "../widgets/NumberField";

function turnFront(characterId: string, degrees: number | null): void {
  edit({ edit: "set front", character_id: characterId, front_deg: degrees });
}

export function JudgeCard() {
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const thing = useSession((s) => judgedThing(s));
  const rig = useSession((s) => part<RigPart>(s, thing?.rig));
  const joint = useSession((s) => s.joint);
  const frozen = useSession((s) => s.frozenFrame);
  const showArc = useSession((s) => s.showArc);
  const shownAs = useSession((s) => s.shownAs);
  const showOnion = useSession((s) => s.showOnion);
  const arc = useSession((s) => part<ArcPart>(s, s.scene?.arc));
  const laidOver = useSession((s) => s.laidOver !== null);
  const { strip, actionLine } = useSession((s) => s.looks);
  if (!thing || !rig) return <p className="why">The scene has no character.</p>;
  const character = isPiece(thing) ? null : thing;
  const choose = (name: string | null) => {
    setSession({ joint: name });
    void refreshView();
  };
  const chooseThing = (id: string | null) => {
    setSession(judging(scene, id!, null));
    void refreshView();
  };
  const followPoint = () =>
    pickInPicture({
      what: "a point on a mesh",
      take: () => {},
      takeMesh: ({ thing: { id }, name }) => {
        setSession({ ...judging(scene, id, name), showArc: true });
        void refreshView();
      },
    });
  return (
    <>
      <h2>
        {joint ?? thing.name} <small>{joint ? thing.name : `${rig.joints.length} joints`}</small>
      </h2>
      <div className="actions">
        <Button
          title="A file with its motion, as it was exported last; it may also be dropped anywhere here"
          onClick={() => askForFile(thing.id)}
        >
          Next version…
        </Button>
        <Button
          title="A corner of the mouth, the edge of a lid, the tip of a boot: it is followed like a joint. Click it in the Picture"
          onClick={followPoint}
        >
          Point on the mesh…
        </Button>
      </div>
      {thingsOf(scene).length > 1 && (
        <Select
          label="Character or prop"
          data={thingsOf(scene).map((t) => ({ value: t.id, label: t.name }))}
          value={thing.id}
          allowDeselect={false}
          onChange={chooseThing}
        />
      )}
      <Select
        label="Joint"
        placeholder="Click one in the Picture, or type"
        data={[...new Set([...(joint && isMeshPoint(joint) ? [joint] : []), ...rig.joints])]}
        value={joint}
        onChange={choose}
        searchable
        clearable
      />
      {joint && arc ? (
        <>
          <ArcFigures arc={arc} first={scene.first} />
          <SpacingChart thing={thing} joint={joint} />
        </>
      ) : (
        <p className="why">
          Choose a joint, and its way over the screen is drawn and judged through{" "}
          {looking === "cut" ? "the cut" : "this camera"}.
        </p>
      )}
      {joint && !isMeshPoint(joint) && <JointActions thing={thing} joint={joint} />}
      {character && <Corrections character={character} joint={joint && !isMeshPoint(joint) ? joint : null} />}
      {character && (
        <Fields columns={2}>
          <NumberField
            label={`front of ${character.name}`}
            title="Degrees round from +Z: what front, side and lead room go by"
            value={
              character.front_deg ?? (Math.atan2(character.front[0]!, character.front[2]!) * 180) / Math.PI
            }
            unit="°"
            digits={1}
            onSet={(v) => turnFront(character.id, v)}
          />
          {character.front_deg !== null && (
            <Button mt={22} onClick={() => turnFront(character.id, null)}>
              As measured
            </Button>
          )}
        </Fields>
      )}
      <h3>Shown in the Picture</h3>
      <SegmentedControl
        aria-label="How characters are shown (H)"
        size="xs"
        mb={8}
        data={SHOWN_AS}
        value={shownAs}
        onChange={(value) => setSession({ shownAs: value })}
      />
      <Switch
        label="Arcs (A)"
        checked={showArc}
        onChange={() => setSession({ showArc: !showArc })}
        size="xs"
        mb={6}
      />
      {showArc && <ArcChoices joint={joint} />}
      <Switch
        label={
          frozen === null ? "Frozen on this frame's camera (I)" : `Frozen on the camera of ${frozen} (I)`
        }
        checked={frozen !== null}
        disabled={!joint}
        size="xs"
        mb={6}
        onChange={() => {
          toggleFreeze();
          void refreshView();
        }}
      />
      <Switch
        label="Onion skin (O)"
        checked={showOnion}
        onChange={() => setSession({ showOnion: !showOnion })}
        size="xs"
        mb={6}
      />
      {showOnion && <OnionChoices />}
      <Switch
        label="Line of action (Shift O)"
        checked={actionLine}
        onChange={() => setLooks({ actionLine: !actionLine })}
        size="xs"
        mb={6}
      />
      <Switch
        label="Another camera laid over (Alt L)"
        checked={laidOver}
        onChange={toggleLaidOver}
        size="xs"
        mb={6}
      />
      <ShareChoices />
      <Switch
        label="In the Sheet: the subject's share (red) and the camera's (blue)"
        size="xs"
        mt={8}
        checked={strip === "shares"}
        onChange={() => setLooks({ strip: strip === "shares" ? "spacing" : "shares" })}
      />
      {joint && <Taking sceneId={scene.id} thingId={thing.id} joint={joint} frozen={frozen} />}
    </>
  );
}

/** Which arcs stay in the Picture, how much of them is drawn, and how. */
function ArcChoices({ joint }: { joint: string | null }) {
  const scene = useSession((s) => s.scene)!;
  const { alsoArcs, arcReach, arcBySpeed, relativeTo } = useSession((s) => s.looks);
  const seenFrom = alsoArcs.findIndex(
    (arc) => arc.joint === relativeTo?.joint && arc.thing_id === relativeTo.thing_id,
  );
  const thing = useSession((s) => judgedThing(s));
  const stays = alsoArcs.some((arc) => arc.joint === joint && arc.thing_id === thing?.id);
  return (
    <div className="looks">
      <div className="kept-arcs">
        {alsoArcs.map((arc, at) => {
          const owner = thingsOf(scene).find(({ id }) => id === arc.thing_id);
          if (!owner) return null;
          return (
            <button
              key={`${arc.thing_id} ${arc.joint}`}
              className="toggle"
              aria-label={`Let the arc of ${owner.name} ${arc.joint} go`}
              title={`${owner.name} ${arc.joint}: let its arc go`}
              onClick={() => letArcGo(at)}
            >
              {arc.joint} ×
            </button>
          );
        })}
        {joint && !stays && (
          <button
            className="toggle"
            title="It stays while another joint is chosen (Shift A)"
            onClick={keepArc}
          >
            + keep this arc
          </button>
        )}
      </div>
      {alsoArcs.length > 0 && (
        <Select
          label="As seen from"
          size="xs"
          mb={6}
          data={[
            { value: "", label: "the camera" },
            ...alsoArcs.map((arc, at) => ({ value: String(at), label: arc.joint })),
          ]}
          value={String(seenFrom < 0 ? "" : seenFrom)}
          allowDeselect={false}
          onChange={(value) => setLooks({ relativeTo: value ? alsoArcs[Number(value)]! : null })}
        />
      )}
      <SegmentedControl
        aria-label="Frames of the arc around the playhead"
        size="xs"
        data={REACHES.map((n) => ({ value: String(n), label: n ? `± ${n}` : "all frames" }))}
        value={String(arcReach)}
        onChange={(value) => setLooks({ arcReach: Number(value) })}
      />
      <Switch
        label="Thicker where it is faster"
        size="xs"
        mt={6}
        mb={6}
        checked={arcBySpeed}
        onChange={() => setLooks({ arcBySpeed: !arcBySpeed })}
      />
    </div>
  );
}

function OnionChoices() {
  const { onionBy, onionCount } = useSession((s) => s.looks);
  return (
    <div className="looks">
      <SegmentedControl
        aria-label="Onion skin of"
        size="xs"
        data={ONION_BY}
        value={onionBy}
        onChange={(value) => setLooks({ onionBy: value as OnionBy })}
      />
      <SegmentedControl
        aria-label="How many before and after"
        size="xs"
        mt={4}
        mb={6}
        data={Array.from({ length: MOST_ONION }, (_, n) => String(n + 1))}
        value={String(onionCount)}
        onChange={(value) => setLooks({ onionCount: Number(value) })}
      />
    </div>
  );
}

/** The subject's part or the camera's, by itself. */
function ShareChoices() {
  const camera = useSession((s) => s.looks.camera);
  return (
    <SegmentedControl
      aria-label="Whose motion plays"
      title="The camera held still on this frame, or everybody held still and the camera alone (Shift I goes on)"
      size="xs"
      fullWidth
      data={[
        { value: "moves", label: "all moves" },
        { value: "held still", label: "camera still" },
        { value: "alone", label: "camera alone" },
      ]}
      value={camera}
      onChange={(value) => showShare(value as typeof camera)}
    />
  );
}

function ArcFigures({ arc, first }: { arc: ArcPart; first: number }) {
  const frame = useCalmFrame();
  const row = frame - first;
  const known = Array.from(arc.spacing_px.filter((v) => !Number.isNaN(v)));
  const mean = known.reduce((sum, v) => sum + v, 0) / Math.max(1, known.length);
  const judgement = useSession((s) => part<ArcJudgementPart>(s, s.scene?.arc_judgement));
  return (
    <>
      <h3>
        On screen at {frame} <PixelsOf />
      </h3>
      <div className="largest calm">
        <b data-testid="spacing-here">
          {Number.isNaN(arc.spacing_px[row]) ? "–" : arc.spacing_px[row]!.toFixed(1)}
        </b>{" "}
        px spacing
      </div>
      <Figure label="the subject's share">{px(arc.subject_px[row])}</Figure>
      <Figure label="the camera's share" testId="camera-share">
        {px(arc.camera_px[row])}
      </Figure>
      <Figure label="off the arc" testId="off-arc">
        {px(judgement?.off_arc_px[row])}
      </Figure>
      <Figure label="off the spacing">{px(judgement?.off_spacing_px[row])}</Figure>
      <Figure label="least that could be told">{px(judgement?.least_px[row])}</Figure>
      {judgement?.undetectable[row] === 1 && (
        <p className="why">The camera shakes too much here: nothing can be told of the arc through it.</p>
      )}
      <h3>Over the scene</h3>
      <Figure label="spacing least">{px(Math.min(...known))}</Figure>
      <Figure label="spacing most">{px(Math.max(...known))}</Figure>
      <Figure label="spacing mean">{px(mean)}</Figure>
    </>
  );
}

function Taking({
  sceneId,
  thingId,
  joint,
  frozen,
}: {
  sceneId: string;
  thingId: string;
  joint: string;
  frozen: number | null;
}) {
  const query = new URLSearchParams({ thing: thingId, joint });
  if (frozen !== null) query.set("frozen", String(frozen));
  return (
    <div className="actions" style={{ marginTop: 14 }}>
      <Button component="a" href={`/api/scenes/${sceneId}/exports/arc.csv?${query}`} download>
        Arc as CSV
      </Button>
    </div>
  );
}
