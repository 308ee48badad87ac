"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { ArrowLeft } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { linkTo, type VariantLink } from "@/core/analysis/link";
import { drawArm } from "@/core/decision/arms";
import { blankContent, set } from "@/core/draft/variants";
import type { Rule } from "@/core/formats/rule";
import type { Slot, Variant } from "@/core/formats/ruleset";
import type { Schedule } from "@/core/formats/schedule";
import { takeParts } from "@/core/exchange/parts";
import { parseInstant } from "@/core/formats/visit";
import { timingOf, withoutTiming, withTiming } from "@/core/rules/timing";
import { ArmsEditor } from "../parts/content/arms-editor";
import type { OtherContent } from "../parts/content/compare-dialog";
import { ContentFields } from "../parts/content/content-fields";
import { keepCopied } from "../parts/copied";
import { PauseButton } from "../parts/pause-button";
import { useDesk } from "../parts/desk/desk";
import { emptyWords } from "./empty-words";
import { Field } from "../parts/field";
import { NameRow } from "../parts/lists/name-row";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { ScheduleEditor } from "../parts/rule-editor/schedule-editor";
import { RuleSentence } from "../parts/sentence-text";
import type { Draft } from "../parts/desk/use-draft";
import { armName, indexIn, letterOf, Swatch } from "../parts/variants";
import type { Pinned } from "../parts/page-frame/page-frame";
import type { Look } from "../parts/desk/use-look";
import { variantVerdict } from "./verdict";

interface Props {
  slot: Slot;
  /** The variant to edit; null is the fallback. */
  variant: Variant | null;
  look: Look;
  draft: Draft;
  pin: Pinned | undefined;
  onPin: (pin: Pinned | undefined) => void;
  onClose: () => void;
}

/** One variant beside the page: who sees it, and what they see. It is pinned on the page while it is edited. */
export function VariantEditor(props: Props) {
  const { slot, variant, pin, onPin, onClose, look } = props;
  const index = indexIn(slot, variant?.id ?? null);
  const trace = look.decision.trace?.slots
    .find((item) => item.id === slot.id)
    ?.variants.find((item) => item.id === variant?.id);
  const pinned = pin?.slot === slot.id && pin.variant === (variant?.id ?? null);
  const unfinished = variant ? look.runnable.unfinished.get(variant.id) : undefined;
  const verdict =
    variant && variantVerdict(variant, trace, look, props.draft.ruleset, (id) => letterOf(indexIn(slot, id)));
  return (
    <>
      <div className="slothead">
        <IconButton onClick={onClose} aria-label={t("Back to {slot}", { slot: slot.name })}>
          <ArrowLeft size={17} />
        </IconButton>
        <Swatch index={index} />
        <h2 style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
          {variant?.name ?? t("Fallback")}
        </h2>
        {verdict && (
          <span className={`verdict ${unfinished ? "unsure" : trace?.verdict === "shown" ? "yes" : ""}`}>
            {verdict}
          </span>
        )}
      </div>
      <div className="slotscroll">
        {variant ? <VariantForm {...props} variant={variant} /> : <FallbackForm {...props} />}
      </div>
      <div className="slotfoot">
        <Button variant="contained" onClick={onClose}>
          {t("Done")}
        </Button>
        <Button onClick={() => onPin(pinned ? undefined : { slot: slot.id, variant: variant?.id ?? null })}>
          {pinned ? t("Unpin: show who wins") : t("Pin on the page")}
        </Button>
      </div>
    </>
  );
}

function VariantForm({ slot, variant, draft, look, pin, onPin }: Props & { variant: Variant }) {
  const { ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { edit } = draft;
  // Of an unfinished rule nothing is told: it stands there switched off.
  const trace = look.runnable.unfinished.has(variant.id)
    ? undefined
    : look.decision.trace?.slots.find((item) => item.id === slot.id)?.variants.find((item) => item.id === variant.id);
  const [arm, setArm] = useState<string>();
  const openArm = (id: string) => {
    setArm(id);
    if (pin?.slot === slot.id && pin.variant === variant.id) onPin({ ...pin, arm: id });
  };
  const others: OtherContent[] = [
    ...slot.variants
      .filter((item) => item.id !== variant.id)
      .flatMap((item) =>
        item.arms.flatMap((one) =>
          one.content
            ? [{ name: item.arms.length > 1 ? `${item.name}, ${armName(one)}` : item.name, content: one.content }]
            : [],
        ),
      ),
    ...(slot.fallback ? [{ name: t("The fallback"), content: slot.fallback }] : []),
  ];
  const at = ["slots", slot.id, "variants", variant.id];
  return (
    <div className="editor">
      <NameRow
        name={variant.name}
        onName={(name) => edit(t("{variant} renamed", { variant: variant.name }), [set(slot, variant, "name", name)])}
        on={variant.on}
        onSwitch={(on) =>
          edit(t("{variant} switched {on}", { variant: variant.name, on: on ? t("on") : t("off") }), [
            set(slot, variant, "on", on),
          ])
        }
      />
      <div className="rule">
        <RuleSentence rule={variant.rule} names={ruleset} />
      </div>
      <h3>{t("What they see")}</h3>
      <ArmsEditor
        key={variant.id}
        owner={variant}
        at={at}
        variant={variant}
        fallback={slot.fallback}
        blank={blankContent(slot, ruleset)}
        others={others}
        control={slot.take > 1 ? t("nothing in its place") : slot.fallback ? t("the fallback") : "nothing"}
        open={arm}
        onOpen={openArm}
        drawn={drawArm(variant.id, variant.arms, look.visit.visitorId).id}
      />
      <h3>{t("Who sees it")}</h3>
      <RuleEditor
        rule={variant.rule}
        at={[...at, "rule"]}
        says={t("Rule of {variant}", { variant: variant.name })}
        trace={trace?.rule}
      />
      <LinkToIt slot={slot} variant={variant} />
      <h3>{t("When, and for how long")}</h3>
      <Timing
        rule={variant.rule}
        onChange={(rule) =>
          edit(t("When {variant} shows", { variant: variant.name }), [set(slot, variant, "rule", rule)])
        }
      />
      <Remembering slot={slot} variant={variant} />
      <PauseButton kind="variant" id={variant.id} />
      <div className="row">
        <Button
          onClick={() =>
            void keepCopied(takeParts({ variants: [variant] }, ruleset)).then(() =>
              enqueueSnackbar(
                t("“{variant}” can be pasted under Add a variant, in any slot of any site", { variant: variant.name }),
              ),
            )
          }
        >
          {t("Copy for another slot or site")}
        </Button>
      </div>
    </div>
  );
}

/** A link that leads straight to a variant: for a tab, a mail, a partner. */
function LinkToIt({ slot, variant }: { slot: Slot; variant: Variant }) {
  const { look, pages, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [found, setFound] = useState<VariantLink | "none">();
  const judged = look.runnable.ruleset;
  const make = () => {
    const here = judged.slots.find((item) => item.id === slot.id);
    const mine = here?.variants.find((item) => item.id === variant.id);
    const domain = { ruleset: judged, pages, from: parseInstant(look.visit.at) as number };
    const finished = !look.runnable.unfinished.has(variant.id);
    setFound((finished && here && mine && linkTo(domain, here, mine)) || "none");
  };
  if (!found)
    return (
      <div className="row">
        <Button onClick={make}>{t("A link straight to it")}</Button>
      </div>
    );
  if (found === "none")
    return <span className="quiet">{t("No link leads to it: no visitor who sees it was found.")}</span>;
  const url = found.url.replace(ruleset.site.origin, "");
  return (
    <div className="stack">
      <div className="row">
        <code style={{ overflowWrap: "anywhere" }}>{found.url}</code>
        <Button
          onClick={() =>
            void navigator.clipboard.writeText(found.url).then(
              () => enqueueSnackbar(t("The link is copied")),
              () =>
                enqueueSnackbar(t("The browser did not let it be copied: mark and copy it by hand."), {
                  variant: "warning",
                }),
            )
          }
        >
          {t("Copy")}
        </Button>
      </div>
      <span className="quiet">
        {found.enough
          ? t("Anyone who opens {url} sees it.", { url: url || "/" })
          : t("The link alone is not enough: location, time, device or history decide, too.")}
      </span>
    </div>
  );
}

/** A schedule beside the rest of the rule. */
function Timing({ rule, onChange }: { rule: Rule; onChange: (rule: Rule) => void }) {
  const { ruleset } = useDesk();
  const found = timingOf(rule);
  const [open, setOpen] = useState(false);
  if (!found)
    return (
      <div className="row">
        <span className="quiet">{t("At all times.")}</span>
        <Button
          onClick={() => {
            setOpen(true);
            onChange(
              withTiming(rule, {
                signal: "time",
                op: "within",
                value: {
                  zone: "site",
                  days: ["MO", "TU", "WE", "TH", "FR"],
                  windows: [{ start: "09:00", end: "18:00" }],
                },
              }),
            );
          }}
        >
          {t("Give it a schedule")}
        </Button>
      </div>
    );
  const { condition } = found;
  return (
    <div className="stack">
      <div className="timing">
        <RuleSentence rule={condition} names={ruleset} />
      </div>
      {open && (
        <ScheduleEditor
          schedule={condition.value as Schedule}
          siteZone={ruleset.site.zone}
          onChange={(schedule) => onChange(withTiming(rule, { ...condition, value: schedule }))}
        />
      )}
      <div className="row">
        <Button onClick={() => setOpen(!open)} aria-expanded={open}>
          {open ? t("Close the schedule") : t("Change the schedule")}
        </Button>
        <Button color="error" onClick={() => onChange(withoutTiming(rule))}>
          {t("Show it at all times")}
        </Button>
      </div>
    </div>
  );
}

/** Whether a visitor keeps seeing it after the rule no longer holds. */
function Remembering({ slot, variant }: { slot: Slot; variant: Variant }) {
  const { draft } = useDesk();
  return (
    <Field
      label={t("Keep showing it to the same visitor, in days")}
      helperText={t(
        "Empty: only while the rule holds. Counted from the last showing, and only with the visitor’s consent.",
      )}
      value={variant.rememberDays === undefined ? "" : String(variant.rememberDays)}
      problem={(text) =>
        text === "" || (/^\d{1,4}(\.\d{1,2})?$/.test(text) && Number(text) > 0)
          ? undefined
          : t("A number of days above 0")
      }
      onCommit={(text) =>
        draft.edit(t("For how long {variant} is remembered", { variant: variant.name }), [
          set(slot, variant, "rememberDays", text === "" ? undefined : Number(text)),
        ])
      }
    />
  );
}

function FallbackForm({ slot, draft }: Props) {
  const { lookedBy } = useDesk();
  const { ruleset, edit } = draft;
  const at = ["slots", slot.id, "fallback"];
  if (!slot.fallback)
    return (
      <div className="editor">
        <span className="quiet">
          {t("Where no variant wins, {rest}. Add a fallback to show something to everyone else.", {
            rest: emptyWords(lookedBy).rest,
          })}
        </span>
        <div className="row">
          <Button
            onClick={() =>
              edit(t("A fallback for {slot}", { slot: slot.name }), [
                { do: "set", at, before: null, after: blankContent(slot, ruleset) },
              ])
            }
          >
            {t("Add a fallback")}
          </Button>
        </div>
      </div>
    );
  return (
    <div className="editor">
      <span className="quiet">{t("For everyone whom no variant is shown to.")}</span>
      <ContentFields content={slot.fallback} at={at} owner={t("the fallback of {slot}", { slot: slot.name })} />
      <div className="row">
        <Button
          color="error"
          onClick={() =>
            edit(t("No fallback for {slot}", { slot: slot.name }), [
              { do: "set", at, before: slot.fallback, after: null },
            ])
          }
        >
          {t("Show nothing instead")}
        </Button>
      </div>
    </div>
  );
}
