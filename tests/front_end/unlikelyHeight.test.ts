/** Bodies of an odd height are asked about when they come in. */
import { unlikelyHeight } from "@/widgets/unlikelyHeight";

describe("the height of a body that comes in", () => {
  it.each([0, 0.2, 1.7, 20, NaN])("of %s m is taken as it is", (tall) => {
    expect(unlikelyHeight(tall)).toBeNull();
  });
  it("is asked about where it is that of no body", () => {
    expect(unlikelyHeight(0.017)).toContain("1.7 cm high?");
    expect(unlikelyHeight(170)).toContain("170 m high?");
  });
});
