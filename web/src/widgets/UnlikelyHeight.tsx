/** Asks about a body that would stand higher or lower than bodies are. */
import "./unlikelyHeight.css";
import { unlikelyHeight } from "./unlikelyHeight";

export function UnlikelyHeight({ tall }: { tall: number }) {
  const asked = unlikelyHeight(tall);
  return (
    asked && (
      <p className="unlikely" role="status">
        {asked}
      </p>
    )
  );
}
