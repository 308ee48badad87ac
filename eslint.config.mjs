// Lint rules. The rooms of docs/architecture.md are held here: an arrow only ever points down the list.
import next from "eslint-config-next/core-web-vitals";
import ts from "typescript-eslint";

const rooms = [
  "front",
  "app",
  "workbench",
  "in-process",
  "script",
  "mirror",
  "delivery",
  "server",
  "admin",
  "data",
  "cli",
  "core",
];
/** What each room may import, beside itself. `types` are allowed for type-only imports. */
const may = {
  front: ["server", "delivery", "data", "core"],
  app: ["workbench", "in-process", "script", "delivery", "server", "data", "core"],
  workbench: ["core", "script"],
  "in-process": ["core", "delivery", "script"],
  script: ["core"],
  mirror: ["front", "server", "delivery", "data", "core"],
  delivery: ["core", "data", "front"],
  server: ["core", "data"],
  data: ["core"],
  admin: ["server", "data", "core"],
  cli: ["core", "admin"],
  core: [],
};
const typesOnly = { workbench: ["server"] };
const packagesRefusedInCore = ["react", "react-dom", "next", "pg", "@mui/*", "@emotion/*", "node:*", "fs", "path"];
/** The folders of the core from the bottom up: each may import those before it, so that no two lean on each other. */
const coreFolders = [
  "messages",
  "money",
  "calendar",
  "text",
  "formats",
  "visit",
  "schedule",
  "rules",
  "cart",
  "content",
  "memory",
  "decision",
  "collect",
  "ruleset",
  "draft",
  "lens",
  "statistics",
  "analysis",
  "checks",
  "campaigns",
  "exchange",
  "people",
  "preview",
  "release",
  "replay",
  "results",
];

const patternsOf = (room) => {
  const closed = rooms.filter((other) => other !== room && !may[room].includes(other));
  const typed = typesOnly[room] ?? [];
  const patterns = closed.map((other) => ({
    group: [`@/${other}/*`, `@/${other}`, `**/../${other}/*`, `**/../${other}/**`],
    message: `src/${room} may not import from src/${other}.`,
    allowTypeImports: typed.includes(other),
  }));
  patterns.push({ group: ["**/demo/**"], message: "The product knows nothing of the demo." });
  if (room === "core")
    patterns.push({ group: packagesRefusedInCore, message: "The core knows no framework, system or database." });
  return patterns;
};
const refusing = (files, patterns) => ({
  files: [files],
  ignores: ["**/*.test.ts", "**/*.test.tsx"],
  rules: { "@typescript-eslint/no-restricted-imports": ["error", { patterns }] },
});
const boundaries = rooms.map((room) => refusing(`src/${room}/**/*.{ts,tsx}`, patternsOf(room)));
const downhill = coreFolders.slice(0, -1).map((folder, at) =>
  refusing(`src/core/${folder}/**/*.ts`, [
    ...patternsOf("core"),
    {
      group: coreFolders.slice(at + 1).flatMap((later) => [`../${later}/*`, `@/core/${later}/*`]),
      message: `src/core/${folder} may import only from the folders of the core that stand before it (eslint.config.mjs).`,
    },
  ]),
);

/** Node.js 20 answers it wrongly where it is asked often. */
const wrongUrl = { object: "URL", property: "canParse", message: "Ask isUrl (src/core/text/is-url.ts)." };
const clockless = {
  files: ["src/core/**/*.ts"],
  ignores: ["**/*.test.ts", "src/core/text/is-url.ts"],
  rules: {
    "no-restricted-globals": ["error", "window", "document", "fetch", "process", "performance", "setTimeout"],
    "no-restricted-properties": [
      "error",
      { object: "Date", property: "now", message: "The core reads no clock." },
      { object: "Math", property: "random", message: "The same inputs give the same output." },
      wrongUrl,
    ],
  },
};
const rightUrls = {
  files: ["delivery", "front", "in-process", "mirror", "server"].map((folder) => `src/${folder}/**/*.{ts,tsx}`),
  rules: { "no-restricted-properties": ["error", wrongUrl] },
};

/** The time of day is taken from src/clock.ts alone, so that a test can set it; spans of time from performance.now(). */
const readsClock = "Take the time from src/clock.ts.";
const oneClock = {
  files: ["src/**/*.{ts,tsx}", "demo/**/*.{ts,tsx}", "scripts/**/*.ts", "tests/**/*.ts"],
  ignores: ["src/clock.ts", "src/clock.test.ts"],
  rules: {
    "no-restricted-syntax": [
      "error",
      { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: readsClock },
      { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: readsClock },
      // Its name `z` is the whole package, with every language: 350 kB more in each frame and on each screen.
      {
        selector: "ImportDeclaration[source.value='zod'][importKind='value'] > ImportSpecifier",
        message: 'import * as z from "zod"',
      },
    ],
  },
};

const config = [
  { ignores: ["**/.next/**", "node_modules/**", ".data/**", "next-env.d.ts", "src/core/text/unicode.ts"] },
  ...next,
  ...ts.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "error",
      "@next/next/no-img-element": "off",
      // The shop's pages are other origins with plain links: they work without JavaScript.
      "@next/next/no-html-link-for-pages": "off",
      // What runs in the pages of other sites goes from page to page as browsers do.
      "@next/next/no-location-assign-relative-destination": "off",
      eqeqeq: ["error", "smart"],
    },
  },
  ...boundaries,
  ...downhill,
  clockless,
  rightUrls,
  oneClock,
];
export default config;
