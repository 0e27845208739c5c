// Copies the scripts and fonts the application ships into its static folder.
import { copyFileSync, mkdirSync } from "node:fs";

const to = "../src/bottega/web/static/";
mkdirSync(to + "fonts", { recursive: true });
mkdirSync(to + "vendor", { recursive: true });
const barlow = (weight) => `node_modules/@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-${weight}-normal.woff2`;
const plex = (weight) => `node_modules/@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-${weight}-normal.woff2`;
for (const weight of [400, 500, 600]) copyFileSync(barlow(weight), `${to}fonts/barlow-${weight}.woff2`);
for (const weight of [400, 600]) copyFileSync(plex(weight), `${to}fonts/plex-mono-${weight}.woff2`);
copyFileSync("node_modules/htmx.org/dist/htmx.min.js", to + "vendor/htmx.min.js");
copyFileSync("node_modules/@alpinejs/csp/dist/cdn.min.js", to + "vendor/alpine-csp.min.js");
copyFileSync("node_modules/htmx-ext-sse/dist/sse.min.js", to + "vendor/htmx-sse.min.js");
// The checker of accessibility, for the tests alone.
mkdirSync("../tests/e2e/vendor", { recursive: true });
copyFileSync("node_modules/axe-core/axe.min.js", "../tests/e2e/vendor/axe.min.js");
