/** A spirit level on the head: the bubble stands in the middle while it stays level, and runs off where it leans with the arm. */
interface SpiritLevelProps {
  label: string;
  isLevel: boolean;
  /** How far it leans now, degrees. */
  lean: number;
  locked: boolean;
  words: [level: string, leaning: string];
  onToggle: () => void;
}

const TUBE = 88;
const FARTHEST_DEG = 40;

export function SpiritLevel({ label, isLevel, lean, locked, words, onToggle }: SpiritLevelProps) {
  const off = isLevel ? 0 : (Math.max(-1, Math.min(1, lean / FARTHEST_DEG)) * (TUBE - 30)) / 2;
  return (
    <button
      className="spirit-level"
      role="switch"
      aria-checked={isLevel}
      aria-label={label}
      disabled={locked}
      onClick={onToggle}
    >
      <span>{isLevel ? words[0] : words[1]}</span>
      <svg viewBox={`0 0 ${TUBE} 16`} width={TUBE} height={16} aria-hidden="true">
        <rect x={0.7} y={0.7} width={TUBE - 1.4} height={14.6} rx={7.3} className="tube" />
        <path d={`M${TUBE / 2 - 12} 1V15M${TUBE / 2 + 12} 1V15`} className="lines" />
        <ellipse cx={TUBE / 2 + off} cy={8} rx={8.5} ry={5} className="bubble" />
      </svg>
    </button>
  );
}
