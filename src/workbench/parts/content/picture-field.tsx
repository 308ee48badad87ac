"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import type { Content } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import { allContents } from "@/core/ruleset/uses";
import { useDesk } from "../desk/desk";
import { Field } from "../field";

interface Picture {
  src: string;
  alt?: string;
}
interface Props {
  label: string;
  value: unknown;
  onChange: (picture: Picture) => void;
}

const pictureOf = (value: unknown): Picture =>
  typeof value === "object" && value !== null ? (value as Picture) : { src: typeof value === "string" ? value : "" };

/** The pictures that contents of this site use already. */
function picturesIn(draft: SiteDraft): string[] {
  const out = new Set<string>();
  const look = (content: Content) => {
    for (const value of Object.values(content.fields))
      if (typeof value === "object" && value !== null && "src" in value) out.add(String((value as Picture).src));
  };
  for (const { content } of allContents(draft)) look(content);
  for (const block of draft.library) look(block.content);
  out.delete("");
  return [...out].sort();
}
/** The name of a picture as people read it, from its address. */
const nameOf = (src: string): string =>
  (src.split("/").at(-1) ?? src)
    .replace(/\.\w+$/, "")
    .replace(/^hero-/, "")
    .replaceAll("-", " ");

/** A picture, one of those in use or by its address, and the words for those who do not see it. */
export function PictureField({ label, value, onChange }: Props) {
  const { ruleset, storefront } = useDesk();
  const pictures = useMemo(() => picturesIn(ruleset), [ruleset]);
  const picture = pictureOf(value);
  const [wrong, setWrong] = useState<string>();
  const take = (src: string) => {
    const address = src.trim();
    const fits = address === "" || /^(https?:\/\/\S+|\/(?!\/)\S*)$/.test(address);
    setWrong(fits ? undefined : t("A picture’s address begins with / or https://"));
    if (fits && address !== picture.src) onChange({ ...picture, src: address });
  };
  const shown = picture.src.startsWith("/") ? `${storefront}${picture.src}` : picture.src;
  return (
    <>
      <div className="picturefield">
        {picture.src && <img src={shown} alt="" width={64} height={40} />}
        <Autocomplete
          freeSolo
          fullWidth
          openOnFocus
          autoSelect
          options={pictures}
          value={picture.src}
          getOptionLabel={(src) => src}
          filterOptions={(all, { inputValue }) =>
            inputValue === picture.src
              ? all
              : all.filter((src) => src.includes(inputValue) || nameOf(src).includes(inputValue))
          }
          onChange={(_, src) => take(src ?? "")}
          renderOption={({ key, ...rest }, src) => (
            <li key={key} {...rest}>
              {nameOf(src)}
            </li>
          )}
          renderInput={(input) => (
            <TextField
              {...input}
              label={label}
              error={wrong !== undefined}
              helperText={wrong}
              placeholder="/pictures/fern.svg"
            />
          )}
        />
      </div>
      {picture.src && (
        <Field
          label={t("What the picture shows")}
          helperText={t("Read aloud to those who do not see it")}
          value={picture.alt ?? ""}
          problem={(text) => (text.length > 500 ? t("At most 500 characters") : undefined)}
          onCommit={(alt) => onChange({ ...picture, alt })}
        />
      )}
    </>
  );
}
