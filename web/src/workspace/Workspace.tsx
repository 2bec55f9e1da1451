/** One scene at work: Sheet on the left, Picture in the middle with Plan and Readings below, Card on the right. */
import "./workspace.css";
import "../bench/bench.css";
import "../picture/picture.css";
import "../sheet/sheet.css";
import "../card/card.css";
import "../card/camera/camera.css";
import "../card/camera/drawings.css";
import { useEffect, useState } from "react";
import { followChanges } from "../api/changes";
import { closeScene, heardOfChange, openScene, refreshView } from "../state/edits";
import { goToWhereItWasLeft, rememberWhereOneIs } from "../state/leftAt";
import { stop } from "../state/playback";
import { fresh, keptSettings, setSession, useSession } from "../state/session";
import { Header } from "./Header";
import { HelpDialog } from "./HelpDialog";
import { Panes } from "./Panes";
import { RefusedDialog } from "./RefusedDialog";
import { followFullScreen } from "./fullScreen";
import { UndoDialog } from "./UndoDialog";
import { useShortcuts } from "./useShortcuts";

export default function Workspace({ sceneId, onLeave }: { sceneId: string; onLeave: () => void }) {
  const [failure, setFailure] = useState<string | null>(null);
  const ready = useSession((s) => s.scene?.id === sceneId);
  const full = useSession((s) => s.fullPicture);
  useEffect(() => {
    setSession({ ...fresh, ...keptSettings(useSession.getState()), parts: new Map() });
    let forget = () => {};
    openScene(sceneId)
      .then(() => {
        if (useSession.getState().scene?.id !== sceneId) return;
        if (goToWhereItWasLeft(sceneId)) void refreshView();
        forget = rememberWhereOneIs(sceneId);
      })
      .catch((error: unknown) => setFailure(String(error instanceof Error ? error.message : error)));
    const unfollow = followChanges(heardOfChange);
    return () => {
      unfollow();
      forget();
      stop();
      closeScene();
    };
  }, [sceneId]);
  useEffect(followFullScreen, []);
  useShortcuts(ready);
  if (failure) return <OpeningFailed text={failure} onLeave={onLeave} />;
  return (
    <div className={full ? "workspace full" : "workspace"}>
      <Header onLeave={onLeave} />
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
        <h1>The scene cannot be opened</h1>
        <p>{text}</p>
        <button className="toggle" aria-pressed="true" onClick={onLeave}>
          Go to the Desk
        </button>
      </main>
    </div>
  );
}
