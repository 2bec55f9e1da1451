/** The whole application in an element of the page. */
import { MantineProvider } from "@mantine/core";
import { StrictMode } from "react";
import { type Root, createRoot } from "react-dom/client";
import { App } from "./App";
import { theme } from "./theme";

export function mount(element: HTMLElement): Root {
  const root = createRoot(element);
  root.render(
    <StrictMode>
      <MantineProvider theme={theme} defaultColorScheme="light">
        <App />
      </MantineProvider>
    </StrictMode>,
  );
  return root;
}
