"use client";
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
    <section className="slotsettings stack" aria-label="The slot’s settings">
      <div className="row" style={{ alignItems: "flex-start" }}>
        <Field
          label="Name of the slot"
          value={slot.name}
          problem={(name) => (name.trim() === "" ? "Give it a name" : undefined)}
          onCommit={(name) => set("name", name, `Slot ${slot.name} renamed`)}
        />
        <Field
          label="Variants shown at a time"
          value={String(slot.take)}
          problem={(text) => (/^[1-9]\d?$/.test(text) ? undefined : "A number from 1 to 99")}
          helperText={
            slot.take > 1 ? "The first that fit, in order; the fallback only where none does" : "The first that fits"
          }
          onCommit={(text) => set("take", Number(text), `How many ${slot.name} shows`)}
        />
      </div>
      {(slot.at || onPoint) && (
        <>
          <h3>Where on the page</h3>
          <div className="row">
            <span style={{ flex: 1, overflowWrap: "anywhere" }}>
              {slot.at ? (
                <>
                  <code>{placeSays(slot.at)}</code>
                </>
              ) : (
                <>
                  Marked in the page: <code>data-mirada-slot=&quot;{slot.id}&quot;</code>
                </>
              )}
            </span>
            {onPoint && <Button onClick={onPoint}>Point at it anew</Button>}
          </div>
        </>
      )}
      <h3>On which pages</h3>
      <RuleEditor
        rule={slot.pages}
        at={["slots", slot.id, "pages"]}
        says={`Pages of slot ${slot.name}`}
        trace={pages}
        empty="On every page that has a place for it. Say on which by its path, category, tags, language or words."
      />
      <div className="row">
        <Button
          onClick={() =>
            void keepCopied(takeParts({ slots: [slot] }, ruleset)).then(() =>
              enqueueSnackbar(`“${slot.name}” can be pasted under Settings, Slots, on any site`),
            )
          }
        >
          Copy the slot for another site
        </Button>
      </div>
    </section>
  );
}
