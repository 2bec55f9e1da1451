/** The mark: two lines of a current and what is carried by it. */
export function Brand({ onClick }: { onClick?: () => void }) {
  return (
    <a
      className="brand"
      href="/"
      onClick={(event) => {
        if (!onClick) return;
        event.preventDefault();
        onClick();
      }}
    >
      <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden="true">
        <path d="M2 3h13a5 5 0 0 1 0 10H6" fill="none" stroke="currentColor" strokeWidth="2" />
        <path d="M2 8h9" stroke="currentColor" strokeWidth="2" />
        <circle cx="15" cy="8" r="2.2" fill="var(--red)" />
      </svg>
      Eddyfield
    </a>
  );
}
