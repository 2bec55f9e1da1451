/** The Card: what is worked on, by stage of the working order. Nothing is locked away in another stage. */
import { chosenBlock } from "../state/chosenBlock";
import { WORK_STAGES, setSession, useSession } from "../state/session";
import { thingsOf } from "../marks/thingHandles";
import { BlockCard } from "./contents/BlockCard";
import { ComesIn } from "./contents/ComesIn";
import { Contents } from "./contents/Contents";
import { ThingCard } from "./contents/ThingCard";
import { CameraCard } from "./CameraCard";
import { HandOverCard } from "./HandOverCard";
import { JudgeCard } from "./JudgeCard";
import { StepCard } from "./StepCard";
import { TimeCard } from "./TimeCard";

const BODIES = {
  time: TimeCard,
  judge: JudgeCard,
  step: StepCard,
  "hand over": HandOverCard,
};

/** What is arriving, else what was chosen of the scene. */
function SetUp() {
  const [arriving, ...more] = useSession((s) => s.arriving);
  const thing = useSession((s) => thingsOf(s.scene).find((t) => t.id === s.thingId && !t.block_id));
  const block = useSession(chosenBlock);
  if (arriving)
    return (
      <ComesIn
        key={arriving.standIn?.shape ?? arriving.found.digest}
        arriving={arriving}
        more={more.length}
      />
    );
  return (
    <>
      <Contents />
      {block && <BlockCard key={block.id} block={block} />}
      {!block && (thing ? <ThingCard key={thing.id} thing={thing} /> : <CameraCard />)}
    </>
  );
}

export function Card() {
  const stage = useSession((s) => s.workStage);
  const Body = stage === "set up" ? SetUp : BODIES[stage];
  const move = (by: number) => {
    const at = WORK_STAGES.indexOf(stage);
    const next = WORK_STAGES[(at + by + WORK_STAGES.length) % WORK_STAGES.length]!;
    setSession({ workStage: next });
    document.getElementById(`stage-${next}`)?.focus();
  };
  return (
    <aside className="card" aria-label="Card">
      <div className="stages" role="tablist" aria-label="Working order">
        {WORK_STAGES.map((name) => (
          <button
            key={name}
            id={`stage-${name}`}
            role="tab"
            aria-selected={name === stage}
            tabIndex={name === stage ? 0 : -1}
            onClick={() => setSession({ workStage: name })}
            onKeyDown={(event) => {
              if (event.key !== "ArrowRight" && event.key !== "ArrowLeft") return;
              event.stopPropagation();
              move(event.key === "ArrowRight" ? 1 : -1);
            }}
          >
            {name[0]!.toUpperCase() + name.slice(1)}
          </button>
        ))}
      </div>
      <div className="body" role="tabpanel" aria-labelledby={`stage-${stage}`}>
        <Body />
      </div>
    </aside>
  );
}
