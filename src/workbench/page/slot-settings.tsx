"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { takeParts } from "@/core/exchange/parts";
import { placeSays, type Slot } from "@/core/formats/ruleset";
import type { RuleTrace } from "@/core/rules/evaluate";
import { useDesk } from "../parts/desk/desk";
import { keepCopied } from "../parts/copied";
import { Field } from "../parts/field";
import { RuleEditor } from "../parts/rule-editor/rule-editor";

interface Props {
  slot: Slot;
  pages: RuleTrace | undefined;
  /** Points at another place for it; undefined where pages cannot be pointed at. */
  onPoint?: (() => void) | undefined;
}

/** Name, place and pages of a slot, and how many variants it shows at a time. */
export function SlotSettings({ slot, pages, onPoint }: Props) {
  const { draft, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const set = <K extends keyof Slot>(key: K, after: Slot[K], says: string) =>
    draft.edit(says, [{ do: "set", at: ["slots", slot.id, key], before: slot[key], after }]);
  return (
    <section className="slotsettings stack" aria-label={t("The slot’s settings")}>
      <div className="row" style={{ alignItems: "flex-start" }}>
        <Field
          label={t("Name of the slot")}
          value={slot.name}
          problem={(name) => (name.trim() === "" ? t("Give it a name") : undefined)}
          onCommit={(name) => set("name", name, t("Slot {slot} renamed", { slot: slot.name }))}
        />
        <Field
          label={t("Variants shown at a time")}
          value={String(slot.take)}
          problem={(text) => (/^[1-9]\d?$/.test(text) ? undefined : t("A number from 1 to 99"))}
          helperText={
            slot.take > 1
              ? t("The first that fit, in order; the fallback only where none does")
              : t("The first that fits")
          }
          onCommit={(text) => set("take", Number(text), t("How many {slot} shows", { slot: slot.name }))}
        />
      </div>
      {(slot.at || onPoint) && (
        <>
          <h3>{t("Where on the page")}</h3>
          <div className="row">
            <span style={{ flex: 1, overflowWrap: "anywhere" }}>
              {slot.at ? (
                <>
                  <code>{placeSays(slot.at)}</code>
                </>
              ) : (
                <>{rich("Marked in the page: {code}", { code: <code>data-mirada-slot=&quot;{slot.id}&quot;</code> })}</>
              )}
            </span>
            {onPoint && <Button onClick={onPoint}>{t("Point at it anew")}</Button>}
          </div>
        </>
      )}
      <h3>{t("On which pages")}</h3>
      <RuleEditor
        rule={slot.pages}
        at={["slots", slot.id, "pages"]}
        says={t("Pages of slot {slot}", { slot: slot.name })}
        trace={pages}
        empty={t("On every page that has a place for it. Say on which by its path, category, tags, language or words.")}
      />
      <div className="row">
        <Button
          onClick={() =>
            void keepCopied(takeParts({ slots: [slot] }, ruleset)).then(() =>
              enqueueSnackbar(t("“{slot}” can be pasted under Settings, Slots, on any site", { slot: slot.name })),
            )
          }
        >
          {t("Copy the slot for another site")}
        </Button>
      </div>
    </section>
  );
}
