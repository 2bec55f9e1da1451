/** How far a file is on its way in, or why it cannot be brought in. */
import { Button, Progress } from "@mantine/core";
import type { Bringing } from "./bringing";

export function Arriving({ share, failure, cancel }: Bringing) {
  return (
    <>
      {share !== null && (
        <div className="bar" role="status">
          <span>{share < 1 ? "Bringing it in" : "Reading it"}</span>
          <Progress value={share * 100} animated={share >= 1} style={{ flex: 1 }} aria-label="Progress" />
          <Button onClick={cancel}>Cancel</Button>
        </div>
      )}
      {failure && (
        <div className="bar" role="alert">
          {failure}
        </div>
      )}
    </>
  );
}
