import { headers } from "next/headers";
import { pool } from "@/data/pool";
import { loadDraft } from "@/data/draft";
import { listLenses } from "@/data/lenses";
import { listPages } from "@/data/pages";
import { liveRelease } from "@/data/releases";
import * as actions from "@/server/actions";
import { marks } from "@/server/draft";
import { PageScreen } from "@/workbench/page/screen";

export const dynamic = "force-dynamic";
const site = "brackenfold";

export default async function Page() {
  const draft = await loadDraft(site);
  if (!draft)
    return <p style={{ padding: 24 }}>There is no site yet. Start with npm run demo, which fills in Brackenfold.</p>;
  const [pages, lenses, live, history] = await Promise.all([
    listPages(site),
    listLenses(site),
    liveRelease(site),
    marks(site, pool()),
  ]);
  const port = ((await headers()).get("host") ?? "localhost").split(":")[1];
  const { keepLens, dropLens, change, undo, redo, pass, putLive } = actions;
  return (
    <PageScreen
      initial={{ ...draft, ...history }}
      live={live ? { ruleset: live.ruleset, number: live.number } : undefined}
      pages={pages}
      lenses={lenses}
      now={new Date().toISOString()}
      storefront={`http://${site}.localhost${port ? `:${port}` : ""}`}
      actions={{ keepLens, dropLens, change, undo, redo, pass, putLive }}
    />
  );
}
