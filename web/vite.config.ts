import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: { outDir: "../var/front-end", emptyOutDir: true, chunkSizeWarningLimit: 900 },
});
