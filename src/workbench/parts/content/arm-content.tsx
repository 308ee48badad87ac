"use client";
import { locale, t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { EarlierContent } from "@/core/draft/earlier";
import type { Edit } from "@/core/draft/edit";
import { takenAway, typeName, unchanged } from "@/core/content/own";
import { hasOwnContent } from "@/core/draft/variants";
import { freshIdIn, insertItem, removeItem } from "@/core/draft/lists";
import { pickedBlock, pickOf } from "@/core/draft/picks";
import type { Arm, Content, Variant } from "@/core/formats/ruleset";
import { useDesk } from "../desk/desk";
import { CompareDialog, type OtherContent } from "./compare-dialog";
import { ContentFields } from "./content-fields";
import { PickForm } from "./pick-form";

interface Props {
  arm: Arm;
  /** Where the arm stands in the draft. */
  at: readonly string[];
  /** The words for it: "Shade ferns", "Shade ferns, arm B". */
  name: string;
  /** The variant whose arm it is; a pop-up's arms pick nothing from the library. */
  variant?: Variant | undefined;
  fallback?: Content | null | undefined;
  /** Texts that can be copied and compared. */
  others: readonly OtherContent[];
  /** What somebody in the control sees. */
  control: string;
  /** The kinds of block that fit here; all without it. */
  types?: readonly string[] | undefined;
}

const local = (instant: string): string =>
  new Date(instant).toLocaleString(locale(), { dateStyle: "medium", timeStyle: "short" });

/** What one arm shows: texts of its own, a block of the library, or nothing of its own (the control). */
export function ArmContent({ arm, at, name, variant, fallback, others, control, types }: Props) {
  const { draft, ruleset, actions, lookedBy } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [comparing, setComparing] = useState(false);
  const [earlier, setEarlier] = useState<readonly EarlierContent[]>();
  const pick = variant && pickOf(ruleset, variant.id, arm.id);
  const path = [...at, "content"];
  const { content } = arm;
  if (!content)
    return (
      <span className="quiet">{t("Those in the control see {control}, and are counted apart.", { control })}</span>
    );

  const setContent = (after: Content, says: string, more: Edit[] = []) =>
    draft.edit(says, [...more, { do: "set", at: path, before: content, after }]);
  const fits = ruleset.blockTypes.filter((type) => !types || types.includes(type.id) || type.id === content.type);
  // What the page itself has can stand in one place alone: not in a pop-up, not in a list of several.
  const slot = ruleset.slots.find((item) => item.variants.some((one) => one.id === variant?.id));
  const own =
    slot && slot.take === 1 ? [...(lookedBy === "tag" && hasOwnContent(slot) ? [unchanged()] : []), takenAway()] : [];
  const kinds = [...own.map((block) => block.type), ...fits.map((type) => type.id)];
  const changeType = (type: string) => {
    const made = own.find((block) => block.type === type);
    if (made) return setContent(made, t("Kind of block of {name}", { name }));
    const fields = ruleset.blockTypes.find((item) => item.id === type)?.fields ?? [];
    const kept = Object.fromEntries(
      Object.entries(content.fields).filter(([id]) => fields.some((field) => field.id === id)),
    );
    setContent({ ...content, type, fields: kept }, t("Kind of block of {name}", { name }));
  };
  const pickFromLibrary = () => {
    if (!variant) return;
    const label =
      ruleset.library.find((block) => block.content.type === content.type)?.labels[0] ?? ruleset.library[0]?.labels[0];
    if (!label) {
      enqueueSnackbar(t("The library has no block with a label yet. Keep this text in it, or make one there."), {
        variant: "warning",
      });
      return;
    }
    const id = freshIdIn(`pick-${variant.id}`, new Set(ruleset.picks.map((item) => item.id)), "pick");
    const item = { id, variant: variant.id, arm: arm.id, labels: [label], forAudience: false, nth: 1 };
    draft.edit(t("{name} picks from the library", { name }), [insertItem(["picks"], item, ruleset.picks.length)]);
  };
  const keepInLibrary = () => {
    const id = freshIdIn(name, new Set(ruleset.library.map((block) => block.id)), "block");
    const item = { id, name, labels: [], content: structuredClone(content) };
    draft.edit(t("{name} kept in the library", { name }), [insertItem(["library"], item, ruleset.library.length)]);
    enqueueSnackbar(t("“{name}” is in the library. Give it labels there, so that variants can pick it.", { name }));
  };
  const ownText = () => {
    if (!pick || !variant) return;
    const block = pickedBlock(pick, ruleset, variant);
    const edits = [removeItem(["picks"], ruleset.picks, pick)];
    if (block) setContent(structuredClone(block.content), t("{name} has a text of its own", { name }), edits);
    else draft.edit(t("{name} has a text of its own", { name }), edits);
  };
  const askEarlier = async () => {
    const found = await actions.earlierTexts([...path], content).catch(() => undefined);
    if (found) setEarlier(found);
    else enqueueSnackbar(t("The server could not be reached."), { variant: "error" });
  };
  const choose = (work: () => void) => () => {
    setMenu(null);
    work();
  };
  if (pick && variant) return <PickForm pick={pick} variant={variant} onOwn={ownText} />;
  return (
    <>
      <ContentFields
        key={`${path.join(" ")} ${content.type}`}
        content={content}
        at={path}
        owner={name}
        fallback={fallback}
      />
      <div className="row">
        {kinds.length > 1 && (
          <TextField
            select
            label={t("Kind of block")}
            value={content.type}
            onChange={(event) => changeType(event.target.value)}
            sx={{ maxWidth: 230 }}
          >
            {[...new Set([content.type, ...kinds])].map((type) => (
              <MenuItem key={type} value={type}>
                {typeName(type, ruleset.blockTypes)}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button onClick={(event) => setMenu(event.currentTarget)} aria-haspopup="menu">
          {t("Texts …")}
        </Button>
        <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
          <MenuItem onClick={choose(() => setComparing(true))}>{t("Compare with another, or copy it …")}</MenuItem>
          <MenuItem onClick={choose(() => void askEarlier())}>{t("Earlier texts …")}</MenuItem>
          {variant && <MenuItem onClick={choose(pickFromLibrary)}>{t("Pick a block of the library")}</MenuItem>}
          <MenuItem onClick={choose(keepInLibrary)}>{t("Keep this text in the library")}</MenuItem>
        </Menu>
      </div>
      {comparing && (
        <CompareDialog
          title={t("Two texts")}
          mine={name}
          content={content}
          others={others}
          ruleset={ruleset}
          taking={t("Copy that text here")}
          onTake={(taken) => {
            setComparing(false);
            setContent(structuredClone(taken), t("Another text copied to {name}", { name }));
          }}
          onClose={() => setComparing(false)}
        />
      )}
      {earlier && (
        <CompareDialog
          title={t("Earlier texts")}
          mine={t("As it is now")}
          content={content}
          others={earlier.map((item) => ({
            name: t("Until {until}, before “{before}”", { until: local(item.until), before: item.before }),
            content: item.content,
          }))}
          ruleset={ruleset}
          taking={t("Go back to that text")}
          onTake={(taken) => {
            setEarlier(undefined);
            setContent(taken, t("An earlier text of {name}", { name }));
          }}
          onClose={() => setEarlier(undefined)}
        />
      )}
    </>
  );
}
