"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import type { Redirect } from "@/core/formats/ruleset";
import { RuleSentence } from "../parts/sentence-text";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { useList } from "../parts/lists/use-list";
import { Verdict } from "../parts/verdict";
import { RedirectEditor } from "./editor";

/** Redirects in order: the first that applies sends the visitor on, before anything of the page is decided. */
export function RedirectsScreen() {
  const { ruleset, look, findings } = useDesk();
  const list = useList("redirects", t("Redirect"), () => undefined);
  const traces = new Map(look.decision.trace?.redirects.map((item) => [item.id as string, item]));
  const looping = new Set(
    findings.list.flatMap((item) =>
      item.finding === "loop" && item.about?.kind === "redirect" ? [item.about.id] : [],
    ),
  );
  return (
    <ListScreen
      title={t("Redirects")}
      teaches={t(
        "A redirect sends visitors on to another page before this one is shown: from an old address, to the shop of their country, to the page in their language. Its examples show where each of your lenses would land.",
      )}
      adding={t("New redirect")}
      note={t("From first to last: the first that applies sends the visitor on. Drag to change the order.")}
      list={list}
      row={(item) => {
        const trace = traces.get(item.id);
        return {
          dim: !item.on,
          says: (
            <>
              {rich("to {to} ({status}),", { to: <code>{item.to}</code>, status: item.status })}{" "}
              <RuleSentence rule={item.rule} names={ruleset} />
            </>
          ),
          verdict: looping.has(item.id) ? (
            <span className="verdict no">{t("Loops")}</span>
          ) : (
            <Verdict kind="redirect" verdict={trace?.verdict} title={trace?.reason} />
          ),
        };
      }}
      fresh={fresh}
      ordered
    >
      {(item) => <RedirectEditor redirect={item} set={list.set} />}
    </ListScreen>
  );
}

/** A new redirect: switched off, for a path that is to be said. */
const fresh = (): Omit<Redirect, "id"> => ({
  name: t("New redirect"),
  on: false,
  rule: { all: [{ signal: "page.path", op: "is" }] },
  to: "/",
  status: 302,
  keepQuery: true,
  frequency: "always",
  skipBots: false,
  exemptAddresses: [],
});
