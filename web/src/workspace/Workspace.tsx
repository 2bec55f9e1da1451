/** One scene at work: Sheet on the left, Picture in the middle with Plan and Readings below, Card on the right. */
import "./workspace.css";
import "../bench/bench.css";
import "../picture/picture.css";
import "../readings/readings.css";
import "../sheet/sheet.css";
import "../card/card.css";
import "../card/camera/camera.css";
import "../card/camera/drawings.css";
import { useEffect, useState } from "react";
import { getSequence } from "../api/client";
import { followChanges } from "../api/changes";
import { closeScene, openScene } from "../state/edits";
import { heardOfChange } from "../state/following";
import { currentView, refreshView } from "../state/shown";
import { goToWhereItWasLeft, rememberWhereOneIs } from "../state/leftAt";
import { stop } from "../state/playback";
import { fetchAhead } from "../state/sequence";
import { fresh, keptSettings, setSession, useSession } from "../state/session";
import type { Place } from "../widgets/place";
import { Header } from "./Header";
import { HelpDialog } from "./HelpDialog";
import { Panes } from "./Panes";
import { RefusedDialog } from "./RefusedDialog";
import { followFullScreen } from "./fullScreen";
import { UndoDialog } from "./UndoDialog";
import { useShortcuts } from "./useShortcuts";

interface WorkspaceProps {
  opened: Place;
  onLeave: () => void;
  onOpenScene: (id: string) => void;
}

export default function Workspace({ opened, onLeave, onOpenScene }: WorkspaceProps) {
  const { kind, id } = opened;
  const [failure, setFailure] = useState<string | null>(null);
  const ready = useSession((s) => s.scene !== null && (s.sequence?.id ?? s.scene.id) === id);
  const full = useSession((s) => s.fullPicture);
  useEffect(() => {
    setSession({ ...fresh, ...keptSettings(useSession.getState()), parts: new Map() });
    let forget = () => {};
    let left = false;
    const open = async () => {
      if (kind === "sequences") {
        const sequence = await getSequence(id);
        if (left) return;
        const first = sequence.scenes[0];
        if (!first) throw new Error(`“${sequence.name}” has no scenes yet. Add some to it on the Desk.`);
        setSession({ sequence });
        await openScene(first.scene_id);
        return fetchAhead();
      }
      await openScene(id);
      if (useSession.getState().scene?.id !== id) return;
      const elsewhere = goToWhereItWasLeft(id);
      // Arcs that stay are of this scene or of another: which, is known only now.
      if (elsewhere || currentView().also?.length) void refreshView();
      forget = rememberWhereOneIs(id);
    };
    open().catch((error: unknown) => setFailure(String(error instanceof Error ? error.message : error)));
    const unfollow = followChanges(heardOfChange);
    return () => {
      left = true;
      unfollow();
      forget();
      stop();
      closeScene();
    };
  }, [kind, id]);
  useEffect(followFullScreen, []);
  useShortcuts(ready);
  if (failure) return <OpeningFailed text={failure} onLeave={onLeave} />;
  return (
    <div className={full ? "workspace full" : "workspace"}>
      <Header onLeave={onLeave} onOpenScene={onOpenScene} />
      <main>{ready && <Panes />}</main>
      <HelpDialog />
      <RefusedDialog />
      <UndoDialog />
    </div>
  );
}

function OpeningFailed({ text, onLeave }: { text: string; onLeave: () => void }) {
  return (
    <div className="desk">
      <main>
        <h1>It cannot be opened</h1>
        <p>{text}</p>
        <button className="toggle" aria-pressed="true" onClick={onLeave}>
          Go to the Desk
        </button>
      </main>
    </div>
  );
}
