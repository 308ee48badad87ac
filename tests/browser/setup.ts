import { writeFileSync } from "node:fs";
import { keepFirst, type SiteNow } from "./as-before";
import { dayFile, port, signIn, stateFile } from "./support";

/** Signs in once as whoever has every role: the tests go on from there. */
export default async function setup(): Promise<void> {
  const cookie = await signIn("Owner");
  writeFileSync(stateFile, JSON.stringify({ cookies: [cookie], origins: [] }));
  const answer = await fetch(`http://localhost:${port}/s/brackenfold/act/news`, {
    method: "POST",
    headers: {
      "content-type": "application/json",
      origin: `http://localhost:${port}`,
      cookie: `${cookie.name}=${cookie.value}`,
    },
    body: JSON.stringify([-1, ""]),
  });
  const desk = (await answer.json()) as SiteNow & { lenses: { id: string; visit: { at: string } }[] };
  keepFirst(desk);
  const { lenses } = desk;
  const clinic = lenses.find((lens) => lens.id === "lisbon-desk")?.visit.at.slice(0, 10);
  if (!clinic) throw new Error("the demo's first lens is not there");
  writeFileSync(dayFile, JSON.stringify(clinic));
}
