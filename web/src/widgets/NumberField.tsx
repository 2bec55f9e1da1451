/**
 * A number with its unit. It is typed, as arithmetic if one likes and in any unit of its kind, and set when the field is left or
 * by Enter; Escape takes back what was typed. Arrow keys step it, with Shift ten times as far, with Alt a tenth; dragging its
 * label sideways slides it. What comes from elsewhere meanwhile never disturbs the typing.
 */
import { TextInput } from "@mantine/core";
import { useRef, useState } from "react";
import { amountOf } from "./amount";

interface NumberFieldProps {
  label: string;
  value: number;
  unit?: string;
  digits?: number;
  step?: number;
  min?: number;
  max?: number;
  disabled?: boolean;
  title?: string;
  onSet: (value: number) => void;
}

const [COARSE, FINE] = [10, 0.1];
const PX_A_STEP = 4;
const SAME = 1e-9;

export function NumberField(props: NumberFieldProps) {
  const { label, value, unit = "", digits = 2, step = 0.1, disabled, title, onSet } = props;
  const { min = -Infinity, max = Infinity } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [isWrong, setWrong] = useState(false);
  const slide = useRef<{ from: number; start: number; to: number } | null>(null);
  const rounded = (number: number) => Number(number.toFixed(digits));
  const shown = rounded(value);
  const written = (number: number) => `${number}${/^[°%]?$/.test(unit) ? unit : ` ${unit}`}`;
  const within = (number: number) => Math.max(min, Math.min(max, number));
  const set = (number: number) => {
    const wanted = within(number);
    if (Math.abs(wanted - shown) > SAME) onSet(wanted);
  };
  const confirm = () => {
    if (typed === null) return true;
    const number = amountOf(typed, unit);
    setWrong(number === null);
    if (number === null) return false;
    setTyped(null);
    set(number);
    return true;
  };
  const forget = () => {
    setTyped(null);
    setWrong(false);
  };
  const stepBy = (event: React.KeyboardEvent, way: 1 | -1) => {
    event.preventDefault();
    const from = typed === null ? shown : (amountOf(typed, unit) ?? shown);
    const far = step * (event.shiftKey ? COARSE : event.altKey ? FINE : 1);
    forget();
    set(Number((from + way * far).toPrecision(12)));
  };
  return (
    <TextInput
      size="xs"
      label={label}
      title={title}
      value={typed ?? written(shown)}
      disabled={disabled}
      inputMode="decimal"
      error={isWrong && `a number${unit && `, in ${unit}`}`}
      styles={{ input: { fontFamily: "var(--mono)", fontSize: 11.5, paddingInline: 5 } }}
      labelProps={{
        className: disabled ? undefined : "slides",
        onPointerDown: (event: React.PointerEvent) => {
          if (disabled || event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          slide.current = { from: event.clientX, start: shown, to: shown };
        },
        onPointerMove: (event: React.PointerEvent) => {
          const held = slide.current;
          if (!held) return;
          const steps = Math.round((event.clientX - held.from) / PX_A_STEP);
          held.to = within(rounded(held.start + steps * step * (event.shiftKey ? COARSE : 1)));
          if (steps) setTyped(written(held.to));
        },
        onPointerUp: () => {
          const held = slide.current;
          slide.current = null;
          if (!held || held.to === held.start) return;
          forget();
          onSet(held.to);
        },
        onPointerCancel: () => {
          slide.current = null;
          forget();
        },
      }}
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={() => {
        if (!confirm()) forget();
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") {
          // Leaving it sets it; what is no number stays to be mended.
          if (typed === null || amountOf(typed, unit) !== null) event.currentTarget.blur();
          else setWrong(true);
        } else if (event.key === "Escape") forget();
        else if (event.key === "ArrowUp") stepBy(event, 1);
        else if (event.key === "ArrowDown") stepBy(event, -1);
      }}
    />
  );
}

/** Fields side by side. */
export function Fields({ children, columns }: { children: React.ReactNode; columns: number }) {
  return (
    <div className="fields" style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
      {children}
    </div>
  );
}
