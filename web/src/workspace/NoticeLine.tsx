/** What was just done or refused, in the line at the top: never over the picture. */
import { useEffect } from "react";
import { setSession, useSession } from "../state/session";

const [PLAIN_MS, WARNING_MS] = [4500, 9000];

export function NoticeLine() {
  const notice = useSession((s) => s.notice);
  useEffect(() => {
    if (!notice) return;
    const timer = setTimeout(
      () => setSession({ notice: null }),
      notice.tone === "warning" ? WARNING_MS : PLAIN_MS,
    );
    return () => clearTimeout(timer);
  }, [notice]);
  return (
    <div className="spacer notices" aria-live="polite">
      {notice && (
        <div className={`notice ${notice.tone}`} title={notice.text}>
          {notice.text}
        </div>
      )}
    </div>
  );
}
