"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Eye, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { addArm, missingShare, removeArm, setWeight, shareOut, visitorFor } from "@/core/draft/arms";
import type { Edit } from "@/core/draft/edit";
import type { Arm, Content, Variant } from "@/core/formats/ruleset";
import { armName } from "../variants";
import { useDesk } from "../desk/desk";
import { Field } from "../field";
import { ArmContent } from "./arm-content";
import type { OtherContent } from "./compare-dialog";

interface Props {
  /** What the arms belong to: a variant or a pop-up. */
  owner: { id: string; name: string; arms: Arm[] };
  /** Where the owner stands in the draft. */
  at: readonly string[];
  variant?: Variant | undefined;
  fallback?: Content | null | undefined;
  /** A block to begin an empty arm with. */
  blank: Content;
  others: readonly OtherContent[];
  /** What somebody in the control sees: "the fallback". */
  control: string;
  types?: readonly string[] | undefined;
  /** The arm that is open, and pinned on the page. */
  open: string | undefined;
  onOpen: (arm: string) => void;
  /** The arm that the lens at hand draws. */
  drawn: string | undefined;
}

/** What is shown, and, where it is a test, which arms it has and how often each is drawn. */
export function ArmsEditor(props: Props) {
  const { owner, at, blank, others, control, onOpen, drawn, variant, fallback, types } = props;
  const { draft, look } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  /** Arms whose share was typed here: they keep it when the rest is shared out. */
  const [typed, setTyped] = useState<ReadonlySet<string>>(new Set());
  const { arms } = owner;
  const arm = arms.find((item) => item.id === props.open) ?? (arms[0] as Arm);
  const testing = arms.length > 1;
  const missing = missingShare(arms);
  const setArms = (after: Arm[], says: string, more: Edit[] = []) =>
    draft.edit(says, [...more, { do: "set", at: [...at, "arms"], before: arms, after }]);
  const add = (content: Content | null) => {
    setMenu(null);
    const next = addArm(arms, content && structuredClone(content));
    setArms(next, t("Another arm in {owner}", { owner: owner.name }));
    onOpen(next.at(-1)?.id ?? arm.id);
  };
  const lookThrough = (id: string) => {
    const visitorId = visitorFor(owner.id, arms, id);
    if (!visitorId) {
      enqueueSnackbar(t("An arm with a share of 0 is never drawn."), { variant: "warning" });
      return;
    }
    look.setVisit({ ...look.visit, visitorId });
    enqueueSnackbar(
      t("You are viewing as a visitor who draws {find}.", {
        find: armName(arms.find((item) => item.id === id) ?? arm),
      }),
    );
  };
  const name = testing ? `${owner.name}, ${armName(arm)}` : owner.name;
  return (
    <div className="stack">
      {testing && (
        <div className="arms" role="group" aria-label={t("Arms of the test")}>
          {arms.map((item) => (
            <div key={item.id} className={`arm${item.id === arm.id ? " open" : ""}`}>
              <button type="button" className="name" aria-pressed={item.id === arm.id} onClick={() => onOpen(item.id)}>
                {armName(item)}
                {item.id === drawn && <span className="yes"> {t("· drawn")}</span>}
              </button>
              <Field
                value={String(item.weight)}
                problem={(text) =>
                  /^\d{1,3}(\.\d{1,2})?$/.test(text) && Number(text) <= 100
                    ? undefined
                    : t("0 to 100, at most two decimals")
                }
                onCommit={(text) => {
                  setTyped(new Set([...typed, item.id]));
                  setArms(
                    setWeight(arms, item.id, Number(text), typed),
                    t("Share of {item} in {owner}", { item: armName(item), owner: owner.name }),
                  );
                }}
                slotProps={{
                  htmlInput: {
                    "aria-label": t("Share of {item} in percent", { item: armName(item) }),
                    inputMode: "decimal",
                  },
                }}
              />
              <span className="quiet">%</span>
              <IconButton
                size="small"
                aria-label={t("View as a visitor who draws {item}", { item: armName(item) })}
                title={t("View as a visitor who draws {item}", { item: armName(item) })}
                onClick={() => lookThrough(item.id)}
              >
                <Eye size={14} />
              </IconButton>
              <IconButton
                size="small"
                aria-label={t("Take out {item}", { item: armName(item) })}
                onClick={() => {
                  setArms(
                    removeArm(arms, item.id),
                    t("{item} taken out of {owner}", { item: armName(item), owner: owner.name }),
                  );
                  if (item.id === arm.id) onOpen(arms.find((other) => other !== item)?.id ?? "a");
                }}
              >
                <Trash2 size={14} />
              </IconButton>
              <i className="share" style={{ width: `${Math.min(100, item.weight)}%` }} aria-hidden />
            </div>
          ))}
          {missing !== 0 && (
            <div className="row" role="alert">
              <span className="error" style={{ flex: 1 }}>
                {missing > 0
                  ? t("{missing} % are missing to 100", { missing })
                  : t("{missing} % are too many: together they are 100", { missing: -missing })}
              </span>
              <Button onClick={() => setArms(shareOut(arms, typed), t("The shares of {owner}", { owner: owner.name }))}>
                {missing > 0 ? t("Share out the rest") : t("Bring them to 100")}
              </Button>
            </div>
          )}
        </div>
      )}
      <ArmContent
        key={arm.id}
        arm={arm}
        at={[...at, "arms", arm.id]}
        name={name}
        variant={variant}
        fallback={fallback}
        control={control}
        types={types}
        others={[
          ...arms
            .filter((item) => item !== arm && item.content)
            .map((item) => ({ name: `${owner.name}, ${armName(item)}`, content: item.content as Content })),
          ...others,
        ]}
      />
      <div className="row">
        <Button onClick={(event) => setMenu(event.currentTarget)} aria-haspopup="menu">
          {testing ? t("Add an arm") : t("Test it against another")}
        </Button>
        <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
          <MenuItem onClick={() => add(arm.content ?? blank)}>{t("A copy of this text, to change")}</MenuItem>
          <MenuItem onClick={() => add(blank)}>{t("An empty text")}</MenuItem>
          {!arms.some((item) => item.content === null) && (
            <MenuItem onClick={() => add(null)}>{t("A control, which sees {control}", { control })}</MenuItem>
          )}
        </Menu>
        {testing && <span className="quiet">{t("The same visitor always draws the same arm.")}</span>}
      </div>
    </div>
  );
}
