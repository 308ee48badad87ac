import { writeFileSync } from "node:fs";
import { request } from "@playwright/test";
import { act, keepFirst, now } from "./as-before";
import { dayFile, port, signIn, stateFile } from "./support";

/** Signs in once as whoever has every role: the tests go on from there. */
export default async function setup(): Promise<void> {
  const cookie = await signIn("Owner");
  writeFileSync(stateFile, JSON.stringify({ cookies: [cookie], origins: [] }));
  const owner = await request.newContext({ storageState: stateFile, baseURL: `http://localhost:${port}` });
  keepFirst(await now(owner, "brackenfold"));
  const lenses = await act<{ items: { id: string; visit: { at: string } }[] }>(
    owner,
    "brackenfold",
    "list",
    "lenses",
    0,
  );
  const clinic = lenses.items.find((lens) => lens.id === "lisbon-desk")?.visit.at.slice(0, 10);
  if (!clinic) throw new Error("the demo's first lens is not there");
  writeFileSync(dayFile, JSON.stringify(clinic));
  await owner.dispose();
}
