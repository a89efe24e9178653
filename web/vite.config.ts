import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vitest/config";

export default defineConfig({
  // the server writes into the page where it lies
  base: "./",
  plugins: [tailwindcss()],
  esbuild: { jsx: "automatic" },
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      // libraries mark modules for servers that render; here none does
      onwarn: (warning, warn) => warning.code === "MODULE_LEVEL_DIRECTIVE" || warn(warning),
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: { include: ["src/**/*.test.{ts,tsx}"] },
});
