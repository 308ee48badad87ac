import type { z } from "zod";
import { lookSources } from "@/core/collect/sources";
import { readPage } from "@/data/pages";
import { answerPass, answerShare } from "./answer";
import type { lookAnswerSchema, lookSchema } from "./http/formats";
import { shownOn } from "./page";

type Asked = Omit<z.output<typeof lookSchema>, "key">;

/** What a look gets, as a page draws it: by a pass of the workbench or by a shared lens; undefined if it has ended. */
export async function lookAnswer(
  site: string,
  { pass, shared, path }: Asked,
): Promise<z.input<typeof lookAnswerSchema> | undefined> {
  const url = new URL(path, "http://here");
  const found =
    pass !== undefined
      ? await answerPass(site, pass)
      : await answerShare(site, shared ?? "", url.pathname, url.search, await factsOf(site, url.pathname));
  return found?.look
    ? {
        ...shownOn(found.ruleset, found.decision),
        opens: found.look.popup?.split("/")[0] ?? null,
        plain: found.look.plain === true,
        sources: lookSources(found.ruleset).map((source) => ({ ...source })),
      }
    : undefined;
}

/** What is known of a page of a site. */
const factsOf = async (site: string, path: string) => (await readPage(site, path))?.facts;
