"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { To } from "../parts/desk/site-address";
import { blocksFor, labelsOf, pickedBlock } from "@/core/draft/picks";
import { isPagesOwn, typeName } from "@/core/content/own";
import type { LibraryBlock } from "@/core/formats/site-draft";
import { ContentFields } from "../parts/content/content-fields";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { ListScreen } from "../parts/lists/list-screen";
import { NameRow } from "../parts/lists/name-row";
import { useList } from "../parts/lists/use-list";

/** Blocks that are written once, and shown by every variant that picks them by their labels. */
export function LibraryScreen() {
  const { ruleset } = useDesk();
  const list = useList("library", t("Block"), () => undefined);
  return (
    <ListScreen
      title={t("Library")}
      teaches={t(
        "Write a block once, give it labels such as “offer” or the name of an audience, and let variants pick it: by label, ordered and narrowed by a field. Change it here, and it changes wherever it is shown.",
      )}
      adding={t("New block")}
      list={list}
      row={(item) => {
        const users = usersOf(item, ruleset);
        return {
          words: item.labels.join(" "),
          says: (
            <>
              {typeName(item.content.type, ruleset.blockTypes)}
              {item.labels.length > 0 && <> · {item.labels.join(", ")}</>}
            </>
          ),
          verdict: (
            <span className={`verdict ${users.length > 0 ? "yes" : ""}`}>
              {users.length === 0
                ? t("Not shown")
                : t("{users, plural, one {# variant} other {# variants}}", { users: users.length })}
            </span>
          ),
        };
      }}
      fresh={() => ({
        name: t("New block"),
        labels: [],
        content: { type: ruleset.blockTypes[0]?.id ?? "", fields: {}, tokens: {} },
      })}
      ordered
      note={t("Where a pick has no order of its own, the order here counts. Drag to change it.")}
    >
      {(item) => <BlockEditor block={item} set={list.set} />}
    </ListScreen>
  );
}

type Draft = ReturnType<typeof useDesk>["ruleset"];

/** The variants that show a block, with their slots. */
const usersOf = (block: LibraryBlock, ruleset: Draft) =>
  ruleset.picks.flatMap((pick) => {
    for (const slot of ruleset.slots) {
      const variant = slot.variants.find((item) => item.id === pick.variant);
      if (variant && pickedBlock(pick, ruleset, variant)?.id === block.id) return [{ slot, variant }];
    }
    return [];
  });

interface Props {
  block: LibraryBlock;
  set: <K extends keyof LibraryBlock & string>(
    block: LibraryBlock,
    key: K,
    value: LibraryBlock[K] | undefined,
    says: string,
  ) => void;
}

function BlockEditor({ block, set }: Props) {
  const { ruleset, draft } = useDesk();
  const users = usersOf(block, ruleset);
  const waiting = ruleset.picks.flatMap((pick) => {
    const variant = ruleset.slots.flatMap((slot) => slot.variants).find((item) => item.id === pick.variant);
    const place = blocksFor(pick, ruleset, variant).findIndex((item) => item.id === block.id);
    return variant && place >= 0 && place !== pick.nth - 1 ? [variant.name] : [];
  });
  const suggestions = [
    ...new Set([...labelsOf(ruleset).map((item) => item.label), ...ruleset.audiences.map((item) => item.name)]),
  ];
  const at = ["library", block.id, "content"];
  return (
    <div className="form">
      <NameRow
        name={block.name}
        onName={(name) => set(block, "name", name, t("Block {block} renamed", { block: block.name }))}
      />
      <Autocomplete
        multiple
        freeSolo
        autoSelect
        options={suggestions}
        value={block.labels}
        onChange={(_, labels) =>
          set(
            block,
            "labels",
            [...new Set(labels.map((label) => label.trim().slice(0, 60)).filter(Boolean))],
            t("Labels of {block}", { block: block.name }),
          )
        }
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Labels")}
            helperText={t("What it is about, and for whom: the name of an audience is a label, too")}
          />
        )}
      />
      <h3>{t("What it says")}</h3>
      <ContentFields key={block.content.type} content={block.content} at={at} owner={block.name} />
      {isPagesOwn(block.content) ? (
        <span className="quiet">
          {t(
            "It changes what a page itself has: where a variant picks it and these parts do not stand, the page’s own content stays.",
          )}
        </span>
      ) : (
        <TextField
          select
          label={t("Kind of block")}
          value={block.content.type}
          sx={{ maxWidth: 240 }}
          onChange={(event) =>
            draft.edit(t("Kind of block of {block}", { block: block.name }), [
              {
                do: "set",
                at,
                before: block.content,
                after: { ...block.content, type: event.target.value, fields: kept(block, event.target.value, ruleset) },
              },
            ])
          }
        >
          {ruleset.blockTypes.map((type) => (
            <MenuItem key={type.id} value={type.id}>
              {type.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <section className="usedby" aria-label={t("Where it is shown")}>
        <h3>
          {users.length === 0
            ? t("No variant shows it yet. Open a variant, “Texts …”, and let it pick by a label of this block.")
            : t("A change here changes {users, plural, one {one variant} other {# variants}}", { users: users.length })}
        </h3>
        {users.map(({ slot, variant }) => (
          <To key={variant.id} href={variantAddress(slot.id, variant.id)}>
            {slot.name}, {variant.name}
          </To>
        ))}
        {waiting.length > 0 && (
          <span className="quiet">
            {t("Fits, but comes later in the order: {waiting}", { waiting: waiting.join(", ") })}
          </span>
        )}
      </section>
    </div>
  );
}

/** The fields of a block that another kind of block has, too. */
const kept = (block: LibraryBlock, type: string, ruleset: Draft) => {
  const fields = ruleset.blockTypes.find((item) => item.id === type)?.fields ?? [];
  return Object.fromEntries(
    Object.entries(block.content.fields).filter(([id]) => fields.some((field) => field.id === id)),
  );
};
