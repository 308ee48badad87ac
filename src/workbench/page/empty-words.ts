import { t } from "@/core/messages/t";
import type { LookedBy } from "@/server/types";

/** What stands in a slot's place where no variant wins and there is no fallback: a page that carries the tag has its own. */
export const emptyWords = (by: LookedBy): { here: string; rest: string } =>
  by === "tag"
    ? { here: t("The page’s own content stands here for this visitor."), rest: t("the page’s own content stands") }
    : { here: t("Nothing is shown here for this visitor."), rest: t("nothing is shown") };
