"use client";
import { t } from "@/core/messages/t";
import { capWords, opensWords, popupVerdict } from "@/core/decision/popup-words";
import type { Popup } from "@/core/formats/ruleset";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { useList } from "../parts/lists/use-list";
import { RuleSentence } from "../parts/sentence-text";
import { Verdict } from "../parts/verdict";
import { PopupEditor } from "./editor";

/** Pop-ups in order: the first that may open on a page does, and no other. */
export function PopupsScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("popups", "Pop-up", () => undefined);
  const traces = new Map(look.decision.trace?.popups.map((item) => [item.id as string, item]));
  return (
    <ListScreen
      title="Pop-ups"
      teaches={t(
        "A pop-up opens over a page: at once, after a while, on scrolling, or when the visitor is about to leave. Say who sees it and how often, and see it in place before visitors do.",
      )}
      adding={t("New pop-up")}
      note={t(
        "From first to last: the first that may open on a page does, and there is never more than one. Drag to change the order.",
      )}
      list={list}
      row={(item) => {
        const trace = look.runnable.unfinishedPopups.has(item.id) ? undefined : traces.get(item.id);
        return {
          dim: !item.on,
          says: (
            <>
              {opensWords(item.opensAfter)}, {capWords(item.cap)}; <RuleSentence rule={item.rule} names={ruleset} />
            </>
          ),
          verdict: <Verdict kind="popup" verdict={trace?.verdict} title={popupVerdict(item, trace, ruleset)} />,
        };
      }}
      fresh={() => fresh(ruleset.blockTypes.map((type) => type.id))}
      ordered
    >
      {(item) => <PopupEditor popup={item} set={list.set} />}
    </ListScreen>
  );
}

/** A new pop-up: switched off, at most once a visit, so that nothing jumps at anybody unasked. */
const fresh = (types: readonly string[]): Omit<Popup, "id"> => ({
  name: t("New pop-up"),
  on: false,
  pages: null,
  rule: null,
  arms: [
    {
      id: "a",
      weight: 100,
      content: { type: types.find((type) => type.startsWith("popup")) ?? types[0] ?? "", fields: {}, tokens: {} },
    },
  ],
  opensAfter: { seconds: 5 },
  size: { width: 420, height: 240 },
  cap: { times: 1, per: "visit" },
});
