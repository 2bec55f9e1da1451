import { useSession } from "../state/session";

/** Says of which frame the pixels beside it are. */
export function PixelsOf() {
  const width = useSession((s) => s.scene?.width);
  const height = useSession((s) => s.scene?.height);
  return (
    <small className="soft" style={{ fontWeight: 400, whiteSpace: "nowrap" }}>
      px at {width} × {height}
    </small>
  );
}

/** One figure of a Card: what it is, and how much, with its unit. */
export function Figure({
  label,
  children,
  testId,
}: {
  label: string;
  children: React.ReactNode;
  testId?: string;
}) {
  return (
    <div className="figure">
      <span>{label}</span>
      <span data-testid={testId}>{children}</span>
    </div>
  );
}

/** Pixels of the delivery frame with one decimal; a dash where they cannot be told. */
export function px(value: number | null | undefined, digits = 1): string {
  return value === null || value === undefined || Number.isNaN(value) ? "–" : `${value.toFixed(digits)} px`;
}

export function metres(value: number): string {
  return `${value.toFixed(2)} m`;
}

export function degrees(value: number): string {
  return `${value.toFixed(1)}°`;
}
