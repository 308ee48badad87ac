"use client";
import { locale, t } from "@/core/messages/t";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { finder } from "@/core/text/find";

/** A list that is longer has a field to search it. */
const short = 6;

interface Search<Item> {
  /** What has all the words. */
  found: readonly Item[];
  /** Whether something is asked for. */
  asked: boolean;
  /** The field; nothing where the list is short. */
  field: React.ReactNode;
}

/** Searches a list by all the words that are typed. `what` names its things: "lenses"; `textOf` is what they are found by. */
export function useSearch<Item>(items: readonly Item[], what: string, textOf: (item: Item) => string): Search<Item> {
  const [text, setText] = useState("");
  const long = items.length > short;
  // What is typed into a field that is gone, since the list has become short, hides nothing.
  const wanted = long ? text.trim() : "";
  const found = useMemo(() => {
    if (wanted === "") return items;
    const has = finder(wanted);
    return items.filter((item) => has(textOf(item)));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what things are found by is the same function each time
  }, [items, wanted]);
  const field = long && (
    <>
      <TextField
        className="searchlist"
        placeholder={t("Search {items} {what}", { items: items.length.toLocaleString(locale()), what })}
        value={text}
        onChange={(event) => setText(event.target.value)}
        slotProps={{ htmlInput: { "aria-label": t("Search {what}", { what }) } }}
      />
      {found.length === 0 && (
        <p className="quiet searchnone" role="status">
          {t("No {what} have these words.", { what })}
        </p>
      )}
    </>
  );
  return { found, asked: wanted !== "", field };
}
