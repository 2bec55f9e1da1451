/** A number with its unit: typed, and sent when it is left or confirmed. */
import { NumberInput } from "@mantine/core";

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

export function NumberField({
  label,
  value,
  unit = "",
  digits = 2,
  step = 0.1,
  min,
  max,
  disabled,
  title,
  onSet,
}: NumberFieldProps) {
  const shown = Number(value.toFixed(digits));
  const set = (text: string) => {
    const number = Number.parseFloat(text);
    if (Number.isFinite(number) && Math.abs(number - shown) > 1e-9) onSet(number);
  };
  return (
    <NumberInput
      key={shown}
      label={label}
      title={title}
      defaultValue={shown}
      suffix={unit && ` ${unit}`.replace(" °", "°").replace(" %", "%")}
      step={step}
      decimalScale={digits}
      min={min}
      max={max}
      disabled={disabled}
      hideControls
      styles={{ input: { fontFamily: "var(--mono)", paddingInline: 6 } }}
      onBlur={(event) => set(event.currentTarget.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
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
