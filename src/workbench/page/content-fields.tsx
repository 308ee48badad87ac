"use client";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { messageProblem } from "@/core/content/check";
import type { Content, Ruleset } from "@/core/formats/ruleset";
import type { Edit } from "@/core/draft/edit";
import { Field } from "../parts/field";

interface Props {
  content: Content;
  /** Where the content stands in the draft. */
  at: readonly string[];
  /** What it belongs to, for the words of a change. */
  owner: string;
  ruleset: Ruleset;
  edit: (says: string, edits: Edit[]) => void;
}

interface Picture {
  src: string;
  alt?: string;
}
const linkProblem = (text: string): string | undefined =>
  text === "" || /^(https?:\/\/[^\s/]|mailto:\S+@|tel:\+?\d|\/(?!\/)|#|\{)/.test(text)
    ? undefined
    : "A link begins with /, https://, mailto: or tel:";

/** The fields of a block, one editor each by its kind. */
export function ContentFields({ content, at, owner, ruleset, edit }: Props) {
  const type = ruleset.blockTypes.find((item) => item.id === content.type);
  if (!type) return <span className="error">This content is of a block type that no longer exists.</span>;
  const pictures = picturesIn(ruleset);
  return (
    <div className="stack">
      {type.fields.map((field) => {
        const before = content.fields[field.id];
        const set = (after: unknown) =>
          edit(`${field.name} of ${owner}`, [{ do: "set", at: [...at, "fields", field.id], before, after }]);
        const text = typeof before === "string" ? before : "";
        switch (field.kind) {
          case "number":
            return (
              <Field
                key={field.id}
                label={field.name}
                value={before === undefined ? "" : String(before)}
                problem={(typed) => (typed === "" || Number.isFinite(Number(typed)) ? undefined : "Give a number")}
                onCommit={(typed) => set(typed === "" ? undefined : Number(typed))}
              />
            );
          case "flag":
            return (
              <FormControlLabel
                key={field.id}
                control={<Switch checked={before === true} onChange={(event) => set(event.target.checked)} />}
                label={field.name}
              />
            );
          case "image": {
            const picture: Picture =
              typeof before === "object" && before !== null ? (before as Picture) : { src: text };
            return (
              <div key={field.id} className="stack">
                <TextField
                  select
                  label={field.name}
                  value={pictures.includes(picture.src) ? picture.src : ""}
                  onChange={(event) => set({ ...picture, src: event.target.value })}
                >
                  {pictures.map((src) => (
                    <MenuItem key={src} value={src}>
                      {pictureName(src)}
                    </MenuItem>
                  ))}
                </TextField>
                <Field
                  label="What the picture shows"
                  helperText="Read aloud to those who do not see it"
                  value={picture.alt ?? ""}
                  onCommit={(alt) => set({ ...picture, alt })}
                />
              </div>
            );
          }
          case "link":
            return <Field key={field.id} label={field.name} value={text} problem={linkProblem} onCommit={set} />;
          default:
            return (
              <Field
                key={field.id}
                label={field.name}
                value={text}
                multiline={field.kind !== "line"}
                minRows={field.kind === "line" ? undefined : 2}
                maxRows={8}
                problem={(typed) =>
                  typed.length > 20_000
                    ? "This is too long: at most 20,000 characters"
                    : field.kind === "line" && /[\r\n]/.test(typed)
                      ? "This must be one line"
                      : messageProblem(typed) && "This has a { or } that is not understood as a token"
                }
                onCommit={set}
              />
            );
        }
      })}
    </div>
  );
}

/** The pictures that contents of this site use already. */
function picturesIn(ruleset: Ruleset): string[] {
  const out = new Set<string>();
  const look = (content: Content | null) => {
    for (const value of Object.values(content?.fields ?? {}))
      if (typeof value === "object" && value !== null && "src" in value) out.add(String((value as Picture).src));
  };
  for (const slot of ruleset.slots) {
    look(slot.fallback);
    for (const variant of slot.variants) for (const arm of variant.arms) look(arm.content);
  }
  return [...out].filter((src) => src !== "").sort();
}
const pictureName = (src: string): string =>
  (src.split("/").at(-1) ?? src)
    .replace(/\.\w+$/, "")
    .replace(/^hero-/, "")
    .replaceAll("-", " ");
