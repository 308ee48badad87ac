/**
 * The message catalogues held against the code: `npm run messages` takes out what nothing says any more, and puts in what is new, with
 * its English words, to be translated. src/messages/messages.test.ts fails while one lacks a message.
 */
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { messagesIn } from "./lib/messages";

const root = fileURLToPath(new URL("..", import.meta.url));
const said = messagesIn(join(root, "src"));
for (const language of ["de", "pt"]) {
  const path = join(root, `src/messages/${language}.json`);
  const old = JSON.parse(readFileSync(path, "utf8")) as Record<string, string>;
  const fresh = [...said.keys()].filter((message) => old[message] === undefined);
  const gone = Object.keys(old).filter((message) => !said.has(message));
  const all = [...said.keys()].sort((a, b) => (a < b ? -1 : 1)).map((message) => [message, old[message] ?? message]);
  writeFileSync(path, `${JSON.stringify(Object.fromEntries(all), null, 2)}\n`);
  for (const message of fresh) console.log(`${language}: to be translated: ${message}`);
  for (const message of gone) console.log(`${language}: taken out: ${message}`);
}
