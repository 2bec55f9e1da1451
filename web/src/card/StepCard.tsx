/** Step: hold poses on ones, twos, threes; see what strobes under the camera; let held poses ride. */
import { Button, NumberInput, Select, Switch } from "@mantine/core";
import type { CharacterView, ShownPart, StrobingFigures, StrobingPart } from "../api/generated";
import { setRide, setStep, toggleRide } from "../state/actions";
import { useCalmFrame } from "../state/calmFrame";
import { holdsText } from "../state/exposing";
import { setLooks } from "../state/judgingLooks";
import { newPoseFrames } from "../state/poses";
import { edit } from "../state/edits";
import { tryWays } from "../state/trying";
import { chosenCharacter, cutCamera, part, playRange, useSession } from "../state/session";
import { Figure, PixelsOf, px } from "../widgets/Figure";
import { OwnExposures } from "./OwnExposures";
import { RideWeight } from "./RideWeight";
import { STEPS } from "./stepNames";

const SEEN_SLIDE_M = 0.0005;
/** Frames, where no range is set. */
const STRETCH = 12;
type Way = Exclude<CharacterView["ride_way"], "off">;
const WAYS = [
  { value: "rigid", label: "whole: turned and carried" },
  { value: "position", label: "carried, not turned" },
  { value: "picture", label: "slid along the picture" },
  { value: "scaled", label: "whole, scaled with the zoom" },
];

export function StepCard() {
  const scene = useSession((s) => s.scene)!;
  const character = useSession((s) => chosenCharacter(s));
  const shown = useSession((s) => part<ShownPart>(s, character?.shown));
  const strobing = useSession((s) => part<StrobingPart>(s, character?.strobing));
  const camera = useSession((s) => cutCamera(s));
  const echo = useSession((s) => s.looks.echo);
  if (!character || !shown) return <p className="why">The scene has no character.</p>;
  if (!strobing) return <p className="why">What strobes is being measured…</p>;
  const { offset, keep_key_poses: keep, own_exposures: own } = character;
  const { timing, step_in_file_time: inFileTime } = character;
  const isRetimed = timing.stretch !== "1" || timing.curve !== null;
  const step = own ? 0 : character.step;
  const held = own ? shown.exposure_start.some((start, row) => start !== scene.first + row) : step > 1;
  const starts = newPoseFrames(shown.exposure_start, scene.first);
  return (
    <>
      <h2>
        {character.name}{" "}
        <small>
          {own ? "an exposure list" : `poses held on ${STEPS.find(([n]) => n === step)?.[1] ?? step}`}
        </small>
      </h2>
      <div className="choices of-steps" role="group" aria-label="Hold poses on">
        {STEPS.map(([n, name]) => (
          <button
            key={n}
            aria-pressed={step === n}
            onClick={() => setStep({ step: n, offset: Math.min(offset, n - 1) })}
          >
            {name}
          </button>
        ))}
      </div>
      {own ? (
        <p className="why" data-testid="exposure-list">
          {holdsText(starts, scene.last)}. Ones to eights above hold all of it alike again.
        </p>
      ) : (
        <NumberInput
          label="Grid moved by"
          suffix=" frames"
          value={offset}
          min={0}
          max={Math.max(0, step - 1)}
          disabled={step === 1}
          mt={8}
          onChange={(value) => typeof value === "number" && value !== offset && setStep({ offset: value })}
        />
      )}
      <StretchOn character={character} hasKeyPoses={shown.key_poses.length > 0} />
      <Switch
        label="A pose change on every key pose"
        size="xs"
        mt={8}
        checked={keep}
        disabled={!shown.key_poses.length || !held}
        onChange={() => setStep({ keep_key_poses: !keep, starts: own ? starts : null })}
      />
      {isRetimed && !own && (
        <Switch
          label="Held before its time was stretched"
          title="The grid counts frames of the performance: on twos at half the speed, a pose lasts four frames"
          size="xs"
          mt={8}
          checked={inFileTime}
          disabled={!held}
          onChange={() => setStep({ in_file_time: !inFileTime })}
        />
      )}
      <Figure label={shown.key_poses.length ? "key poses not shown" : "key poses"} testId="keys-lost">
        {shown.key_poses.length ? shown.lost_key_poses.length || "none" : "none in the file"}
      </Figure>
      <OwnExposures character={character} />
      <h3>
        Strobing under {camera?.name}, {scene.first}–{scene.last} <PixelsOf />
      </h3>
      <Slip figures={strobing.shown} held={held} />
      {held && (
        <Switch
          label="Slip seen as a double image (Shift Y)"
          title="Held poses are seen twice: where they are, and where they stood in the picture when they were new"
          size="xs"
          mt={8}
          mb={8}
          checked={echo}
          onChange={() => setLooks({ echo: !echo })}
        />
      )}
      {held && (
        <div className="actions">
          <Button
            onClick={() => void tryWays()}
            title="Ways to step and ride are tried, measured and shown side by side"
          >
            What would be best?
          </Button>
        </div>
      )}
      {held && <RideBox character={character} strobing={strobing} held={shown} />}
    </>
  );
}

/** A stretch held otherwise than the rest: what is played, or from the playhead on. */
function StretchOn({ character, hasKeyPoses }: { character: CharacterView; hasKeyPoses: boolean }) {
  const scene = useSession((s) => s.scene)!;
  const range = useSession((s) => s.range);
  const frame = useCalmFrame();
  const [first, last] = range ? playRange({ scene, range }) : [frame, Math.min(frame + STRETCH, scene.last)];
  const hold = (step: number | null) =>
    edit({ edit: "expose stretch", character_id: character.id, first, last, step });
  return (
    <>
      <h3>
        Only from <span className="mono">{first}</span> to <span className="mono">{last}</span>
      </h3>
      <div className="choices of-steps" role="group" aria-label={`Hold poses from ${first} to ${last} on`}>
        {STEPS.map(([n, name]) => (
          <button
            key={n}
            title={`A new pose every ${n} frames there; the rest stays`}
            onClick={() => hold(n)}
          >
            {name}
          </button>
        ))}
        {hasKeyPoses && (
          <button title="There a new pose on the key poses alone" onClick={() => hold(null)}>
            key poses
          </button>
        )}
      </div>
      <p className="why">
        Or in the Sheet: drag the edge of a hold, double-click for a new pose or none, tap along with Shift P.
      </p>
    </>
  );
}

function Slip({ figures, held }: { figures: StrobingFigures; held: boolean }) {
  if (!held)
    return (
      <p className="why">
        On ones nothing is held, so nothing slips. Hold on twos to see what the camera does to it.
      </p>
    );
  return (
    <>
      <div className={figures.strobes ? "largest" : "largest calm"}>
        <b data-testid="slip-rms">{figures.rms_px === null ? "–" : figures.rms_px.toFixed(1)}</b> px rms slip
      </div>
      <Figure label="worst" testId="slip-max">
        {px(figures.max_px)}
        {figures.max_frame !== null && (figures.max_px ?? 0) > 0.05 ? ` at ${figures.max_frame}` : ""}
      </Figure>
      <Figure label="pose changes that jump back" testId="reversals">
        {figures.reversals.length}
      </Figure>
      <Figure label="held frames over the threshold">{figures.over_threshold}</Figure>
    </>
  );
}

interface RideBoxProps {
  character: CharacterView;
  strobing: StrobingPart;
  held: ShownPart;
}

function RideBox({ character, strobing, held }: RideBoxProps) {
  const rides = character.ride_way !== "off";
  const { ridden, still, shown } = strobing;
  const priced = rides ? shown : ridden;
  const feet = priced.feet_slide_m;
  return (
    <>
      <div className="boxed">
        <span>
          <b>Ride the camera</b>
          <span className="soft">
            slip {px(priced.rms_px)}
            {priced.legs_stretch !== null && " · feet stay where they stand"}
            {feet !== null &&
              (priced.legs_stretch === null || feet > SEEN_SLIDE_M) &&
              ` · price: feet slide ${px(priced.feet_slide_px)} (${(feet * 1000).toFixed(0)} mm)`}
          </span>
        </span>
        <Switch aria-label="Ride the camera" checked={rides} onChange={toggleRide} size="md" title="Y" />
      </div>
      {rides && (
        <>
          <Select
            label="How the held pose is carried"
            data={WAYS}
            value={character.ride_way}
            allowDeselect={false}
            onChange={(way) => setRide({ way: way as Way })}
          />
          <RideWeight character={character} shown={held} />
          {feet !== null && (
            <Switch
              label="Feet stay where they stand"
              title="And hands that hold on to something in the world stay there"
              size="xs"
              mt={8}
              checked={character.ride_plants}
              onChange={() => setRide({ plants: !character.ride_plants })}
            />
          )}
          {shown.legs_stretch !== null && (
            <Figure label="limbs stretched at most" testId="legs-stretch">
              {(shown.legs_stretch * 100).toFixed(1)} %
              {(shown.feet_missed_m ?? 0) > 0.0005 &&
                ` · one ${(shown.feet_missed_m! * 1000).toFixed(0)} mm short`}
            </Figure>
          )}
          {held.grips.map(({ joint, first, last }) => (
            <Figure key={`${joint} ${first}`} label={`${joint} holds on`}>
              {first}–{last}
            </Figure>
          ))}
          <Figure label="carried by">{character.anchor}</Figure>
          <Figure label="slip with Ride off">{px(still.rms_px)}</Figure>
        </>
      )}
      {feet !== null && (
        <>
          <h3>Feet on the ground</h3>
          <Figure label="slide with Ride off">{slide(still)}</Figure>
          <Figure label={rides ? "slide as shown" : "slide with Ride on"} testId="feet-slide">
            {slide(priced)}
          </Figure>
        </>
      )}
    </>
  );
}

const slide = ({ feet_slide_m, feet_slide_px }: StrobingFigures) =>
  `${((feet_slide_m ?? 0) * 1000).toFixed(0)} mm · ${px(feet_slide_px)}`;
