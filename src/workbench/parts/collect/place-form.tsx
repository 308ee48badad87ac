"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { collectFromSchema, type CollectFrom } from "@/core/formats/collect";
import { DecimalSign } from "./fields";

type Kind = "jsonLd" | "objects" | "selector";
const kindWords: Record<Kind, string> = said({
  objects: text("A list of data objects in the page’s scripts"),
  jsonLd: text("Linked data (JSON-LD) in the page"),
  selector: text("An element of the page, by its selector"),
});

/** Where a value stands, by what was typed; or what is wrong with it. */
function placeOf(kind: Kind, first: string, second: string): { from: CollectFrom } | { problem: string } {
  if (first === "" || (kind === "objects" && second === "")) return { problem: t("Say where it stands.") };
  const read = collectFromSchema.safeParse(
    kind === "jsonLd"
      ? { jsonLd: first }
      : kind === "objects"
        ? { objects: first, key: second }
        : { selector: first, ...(second === "" ? {} : { attribute: second }) },
  );
  if (read.success) return { from: read.data };
  const issue = read.error.issues[0];
  const inner = issue && "errors" in issue ? (issue.errors as { message: string }[][]).flat()[0] : issue;
  return { problem: `It ${inner?.message ?? t("cannot be read")}.` };
}

interface Props {
  /** Whether it is a number, whose decimals are written in one of two ways. */
  counts: boolean;
  onAdd: (from: CollectFrom, decimal: { decimal?: "," }) => void;
  /** What keeps it from being read, whatever is typed. */
  blocked?: string | undefined;
  /** What else is asked, first. */
  children?: React.ReactNode;
}

/** Says by hand where a value stands: for whoever knows the pages' code. */
export function PlaceForm({ counts, onAdd, blocked, children }: Props) {
  const [kind, setKind] = useState<Kind>("objects");
  const [first, setFirst] = useState("");
  const [second, setSecond] = useState("");
  const [decimal, setDecimal] = useState<"." | ",">(".");
  const [problem, setProblem] = useState<string>();
  const add = () => {
    const place = placeOf(kind, first.trim(), second.trim());
    if ("problem" in place) return setProblem(place.problem);
    if (blocked) return setProblem(blocked);
    onAdd(place.from, counts && decimal === "," ? { decimal } : {});
    setFirst("");
    setSecond("");
    setProblem(undefined);
  };
  return (
    <details>
      <summary className="quiet">{t("Say by hand where a value stands")}</summary>
      <form
        className="stack"
        style={{ paddingTop: 10 }}
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        {children}
        <TextField
          select
          label={t("Where it stands")}
          value={kind}
          onChange={(event) => setKind(event.target.value as Kind)}
        >
          {Object.entries(kindWords).map(([key, words]) => (
            <MenuItem key={key} value={key}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        <div className="row">
          <TextField
            label={
              kind === "jsonLd"
                ? t("Type, and the way to the value")
                : kind === "objects"
                  ? t("Name of the list")
                  : t("Selector")
            }
            placeholder={kind === "jsonLd" ? "Product.offers.price" : kind === "objects" ? "siteData" : "header .sum"}
            value={first}
            onChange={(event) => setFirst(event.target.value)}
            fullWidth
          />
          {kind !== "jsonLd" && (
            <TextField
              label={kind === "objects" ? t("Key in it") : t("Attribute, if not its text")}
              placeholder={kind === "objects" ? "cart.value" : "content"}
              value={second}
              onChange={(event) => setSecond(event.target.value)}
              fullWidth
            />
          )}
        </div>
        {counts && <DecimalSign value={decimal} onChange={setDecimal} />}
        {problem && <span className="error">{problem}</span>}
        <div className="row">
          <Button type="submit">{t("Read it")}</Button>
        </div>
      </form>
    </details>
  );
}
