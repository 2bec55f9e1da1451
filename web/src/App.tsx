/** Two places: the Desk, and the workspace of one scene. The address says which. */
import { Loader } from "@mantine/core";
import { Suspense, lazy, useEffect, useState } from "react";
import { Desk } from "./desk/Desk";
import { DropAnywhere } from "./desk/DropAnywhere";

const Workspace = lazy(() => import("./workspace/Workspace"));

function sceneInAddress(): string | null {
  return /^\/scenes\/([0-9a-f-]{36})$/.exec(location.pathname)?.[1] ?? null;
}

export function App() {
  const [sceneId, setSceneId] = useState(sceneInAddress);
  useEffect(() => {
    const follow = () => setSceneId(sceneInAddress());
    addEventListener("popstate", follow);
    return () => removeEventListener("popstate", follow);
  }, []);
  const open = (id: string | null) => {
    history.pushState(null, "", id ? `/scenes/${id}` : "/");
    setSceneId(id);
  };
  return (
    <>
      {sceneId ? (
        <Suspense fallback={<Loader m="xl" aria-label="Opening the scene" />}>
          <Workspace key={sceneId} sceneId={sceneId} onLeave={() => open(null)} />
          <DropAnywhere key={`files ${sceneId}`} sceneId={sceneId} onMade={open} />
        </Suspense>
      ) : (
        <Desk onOpen={open} />
      )}
      <section id="floating" aria-label="Open lists" />
    </>
  );
}
