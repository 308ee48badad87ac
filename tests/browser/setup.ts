import { writeFileSync } from "node:fs";
import { signIn, stateFile } from "./support";

/** Signs in once as whoever has every role: the tests go on from there. */
export default async function setup(): Promise<void> {
  writeFileSync(stateFile, JSON.stringify({ cookies: [await signIn("Owner")], origins: [] }));
}
