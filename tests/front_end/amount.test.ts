/** Numbers as people type them: arithmetic, units of one kind, and what is none. */
import { amountOf } from "@/widgets/amount";

describe("numbers as people type them", () => {
  it.each([
    ["12", "m", 12],
    [" -12.767 m", "m", -12.767],
    ["2,5", "m", 2.5],
    ["1/3", "", 1 / 3],
    ["2*(3+4)-1", "m", 13],
    ["--2", "m", 2],
    ["30 cm", "m", 0.3],
    ["1.5 m + 20cm", "m", 1.7],
    ["2 m", "mm", 2000],
    ["(1+1) m", "cm", 200],
    ["6 ft", "m", 1.8288],
    ["0.5 rad", "°", 90 / Math.PI],
    ["45°", "°", 45],
    ["1e-3", "s", 0.001],
    ["250 ms", "s", 0.25],
    ["−4", "%", -4],
  ])("takes %s in %s", (text, unit, wanted) => {
    expect(amountOf(text, unit)).toBeCloseTo(wanted, 9);
  });
  it.each([
    ["", "m"],
    ["twelve", "m"],
    ["12 kg", "m"],
    ["3 s", "m"],
    ["1/0", "m"],
    ["2 +", "m"],
    ["(2", "m"],
    ["2)", "m"],
    ["1 2", "m"],
    ["2 m m", "m"],
    ["5 m", ""],
  ])("does not guess at %s in %s", (text, unit) => {
    expect(amountOf(text, unit)).toBeNull();
  });
});
