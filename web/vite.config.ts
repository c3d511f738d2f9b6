import react from "@vitejs/plugin-react";
import { defineConfig, type HtmlTagDescriptor, type Plugin } from "vite";

/** What the first page does not ask for stands in it by its address, for the page to fetch once nobody waits. */
function later(): Plugin {
  return {
    name: "later",
    transformIndexHtml: {
      order: "post",
      handler: (html, { bundle = {} }) => {
        const rest = Object.keys(bundle).filter((f) => /\.(js|css)$/.test(f) && !html.includes(f));
        return rest.map((f): HtmlTagDescriptor => ({
          tag: "link",
          attrs: {
            rel: "later",
            crossorigin: true,
            as: f.endsWith("css") ? "style" : "script",
            href: `/static/${f}`,
          },
          injectTo: "head",
        }));
      },
    },
  };
}

export default defineConfig({
  base: "/static/",
  plugins: [react(), later()],
  build: { outDir: "dist", emptyOutDir: true, assetsInlineLimit: 0, sourcemap: false },
  css: {
    preprocessorOptions: {
      scss: {
        quietDeps: true,
        silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"],
      },
    },
  },
});
