"use client";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import Switch from "@mui/material/Switch";
import { ArrowLeft } from "lucide-react";
import { blankContent, set } from "@/core/draft/variants";
import type { Slot, Variant } from "@/core/formats/ruleset";
import { verdictText } from "@/core/rules/explain";
import { Field } from "../parts/field";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { RuleSentence } from "../parts/sentence-text";
import type { Draft } from "../parts/desk/use-draft";
import { indexIn, letterOf, Swatch } from "../parts/variants";
import { ContentFields } from "./content-fields";
import type { Pinned } from "./slot-panel";
import type { Look } from "../parts/desk/use-look";

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
  const verdict = unfinished ? "Not finished" : trace && verdictText(trace, (id) => letterOf(indexIn(slot, id)));
  return (
    <>
      <div className="slothead">
        <IconButton onClick={onClose} aria-label={`Back to ${slot.name}`}>
          <ArrowLeft size={17} />
        </IconButton>
        <Swatch index={index} />
        <h2 style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
          {variant?.name ?? "Fallback"}
        </h2>
        {verdict && (
          <span className={`verdict ${trace?.verdict === "shown" ? "yes" : unfinished ? "unsure" : ""}`}>
            {verdict}
          </span>
        )}
      </div>
      <div className="slotscroll">
        {variant ? <VariantForm {...props} variant={variant} /> : <FallbackForm {...props} />}
      </div>
      <div className="slotfoot">
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
        <Button onClick={() => onPin(pinned ? undefined : { slot: slot.id, variant: variant?.id ?? null })}>
          {pinned ? "Unpin: show who wins" : "Pin on the page"}
        </Button>
      </div>
    </>
  );
}

function VariantForm({ slot, variant, draft, look }: Props & { variant: Variant }) {
  const { ruleset, edit } = draft;
  const trace = look.decision.trace?.slots
    .find((item) => item.id === slot.id)
    ?.variants.find((item) => item.id === variant.id);
  const arm = variant.arms[0];
  return (
    <div className="editor">
      <div className="row" style={{ alignItems: "flex-start" }}>
        <Field
          label="Name"
          value={variant.name}
          problem={(name) => (name.trim() === "" ? "Give it a name" : undefined)}
          onCommit={(name) => edit(`${variant.name} renamed`, [set(slot, variant, "name", name)])}
        />
        <FormControlLabel
          sx={{ flex: "none", mr: 0 }}
          control={
            <Switch
              checked={variant.on}
              onChange={(event) =>
                edit(`${variant.name} switched ${event.target.checked ? "on" : "off"}`, [
                  set(slot, variant, "on", event.target.checked),
                ])
              }
            />
          }
          label={variant.on ? "On" : "Off"}
        />
      </div>
      <div className="rule">
        <RuleSentence rule={variant.rule} names={ruleset} />
      </div>
      <h3>What they see</h3>
      {arm?.content ? (
        <ContentFields
          key={variant.id}
          content={arm.content}
          at={["slots", slot.id, "variants", variant.id, "arms", arm.id, "content"]}
          owner={variant.name}
          ruleset={ruleset}
          edit={edit}
        />
      ) : (
        <span className="quiet">This variant shows the fallback.</span>
      )}
      <h3>Who sees it</h3>
      <RuleEditor
        rule={variant.rule}
        at={["slots", slot.id, "variants", variant.id, "rule"]}
        says={`Rule of ${variant.name}`}
        trace={trace?.rule}
      />
    </div>
  );
}

function FallbackForm({ slot, draft }: Props) {
  const { ruleset, edit } = draft;
  const at = ["slots", slot.id, "fallback"];
  if (!slot.fallback)
    return (
      <div className="editor">
        <span className="quiet">
          Where no variant wins, nothing is shown here. Add a fallback to show something to everyone else.
        </span>
        <div className="row">
          <Button
            onClick={() =>
              edit(`A fallback for ${slot.name}`, [{ do: "set", at, before: null, after: blankContent(slot, ruleset) }])
            }
          >
            Add a fallback
          </Button>
        </div>
      </div>
    );
  return (
    <div className="editor">
      <span className="quiet">For everyone whom no variant is shown to.</span>
      <ContentFields
        content={slot.fallback}
        at={at}
        owner={`the fallback of ${slot.name}`}
        ruleset={ruleset}
        edit={edit}
      />
      <div className="row">
        <Button
          color="error"
          onClick={() => edit(`No fallback for ${slot.name}`, [{ do: "set", at, before: slot.fallback, after: null }])}
        >
          Show nothing instead
        </Button>
      </div>
    </div>
  );
}
