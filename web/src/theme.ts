/** Mantine in Eddyfield's dress: paper, graphite, a blue and a red pencil. */
import { type MantineColorsTuple, createTheme } from "@mantine/core";

const blue: MantineColorsTuple = [
  "#edf3fa",
  "#dce8f5",
  "#9cc0e6",
  "#7aa9d9",
  "#5b91c9",
  "#437db8",
  "#2a65a5",
  "#245891",
  "#1d4d85",
  "#163c69",
];

/** Open menus and lists stand in a landmark of their own. */
const FLOATING = { target: "#floating" };

export const theme = createTheme({
  colors: { blue },
  primaryColor: "blue",
  primaryShade: { light: 6, dark: 4 },
  fontFamily: '"Barlow Semi Condensed", sans-serif',
  fontFamilyMonospace: '"IBM Plex Mono", monospace',
  headings: { fontFamily: '"Barlow Semi Condensed", sans-serif', fontWeight: "600" },
  defaultRadius: 4,
  respectReducedMotion: true,
  shadows: { xs: "none", sm: "none", md: "none", lg: "none", xl: "none" },
  components: {
    Button: { defaultProps: { size: "xs", variant: "default" } },
    Menu: { defaultProps: { shadow: "none", portalProps: FLOATING, withInitialFocusPlaceholder: false } },
    Modal: {
      defaultProps: {
        centered: true,
        overlayProps: { backgroundOpacity: 0.3 },
        closeButtonProps: { "aria-label": "Close" },
      },
    },
    Popover: { defaultProps: { shadow: "none", portalProps: FLOATING } },
    Combobox: { defaultProps: { portalProps: FLOATING } },
    NumberInput: { defaultProps: { size: "xs" } },
    Select: { defaultProps: { size: "xs" } },
    TextInput: { defaultProps: { size: "sm" } },
  },
});
