/** The scenes of the sequence end to end under the Picture, with the running time code; a click goes there. */
import "./sequenceStrip.css";
import { useEffect, useRef } from "react";
import { useEachFrame } from "../state/eachFrame";
import { goToScene, refreshSequence, runningFrame, runningTimecode } from "../state/sequence";
import { session, setSession, useSession } from "../state/session";
import { FrameText } from "../widgets/FrameText";

export function SequenceStrip() {
  const sequence = useSession((s) => s.sequence)!;
  const sceneId = useSession((s) => s.scene!.id);
  const through = useSession((s) => s.through);
  const ends = useSession((s) => `${s.scene!.first} ${s.scene!.last} ${s.scene!.rate}`);
  const now = useRef<HTMLDivElement>(null);
  const here = sequence.scenes.find((scene) => scene.scene_id === sceneId);
  // A scene that was made longer moves all that come after it.
  useEffect(() => {
    if (here && `${here.first} ${here.last} ${here.rate}` !== ends) void refreshSequence();
  }, [here, ends]);
  useEachFrame((frame) => {
    const share = (runningFrame(session(), frame) + 0.5) / Math.max(1, sequence.frames);
    now.current!.style.left = `${share * 100}%`;
  });
  const go = (id: string, first: number, last: number) => (event: React.MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const byKey = event.detail === 0;
    const share = byKey ? 0 : (event.clientX - box.left) / box.width;
    void goToScene(id, first + Math.floor(share * (last - first + 1)));
  };
  return (
    <div className="sequence-strip" data-testid="sequence-strip">
      <FrameText className="mono" of={(frame) => runningTimecode(session(), frame)} />
      <div className="blocks">
        {sequence.scenes.map((scene) => (
          <button
            key={scene.scene_id}
            className={scene.scene_id === sceneId ? "block here" : "block"}
            style={{ flexGrow: scene.lasts }}
            aria-current={scene.scene_id === sceneId}
            title={`${scene.name}: ${scene.first} to ${scene.last}, from ${scene.timecode}${scene.other_rate ? `, at ${+scene.rate_float.toFixed(3)} f/s` : ""}`}
            onClick={go(scene.scene_id, scene.first, scene.last)}
          >
            {scene.name}
          </button>
        ))}
        <div ref={now} className="now" />
      </div>
      <button
        className="toggle"
        aria-pressed={through}
        title="Play on into the next scene"
        onClick={() => setSession({ through: !through })}
      >
        plays through
      </button>
    </div>
  );
}
