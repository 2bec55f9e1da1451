/** Numbers behind a drawing, opened by a click; open or not is remembered for all of them. */
import { useLocalStorage } from "@mantine/hooks";

export function Numbers({ children }: { children: React.ReactNode }) {
  const [open, setOpen] = useLocalStorage({
    key: "eddyfield.numbers",
    defaultValue: false,
    getInitialValueInEffect: false,
  });
  return (
    <details className="numbers" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>numbers</summary>
      {open && children}
    </details>
  );
}
