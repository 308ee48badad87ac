"use client";
import { t } from "@/core/messages/t";
import InputAdornment from "@mui/material/InputAdornment";
import { useMemo } from "react";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { operators } from "@/core/formats/operators";
import type { Condition } from "@/core/formats/rule";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Schedule } from "@/core/formats/schedule";
import { languageName } from "@/core/rules/sentence";
import { closedValues, valuesInUse } from "@/core/ruleset/choices";
import { parseBlock } from "@/core/visit/address";
import { isTypedTag } from "@/core/visit/language";
import { signalInfo } from "@/core/visit/signals";
import { words } from "@/core/text/words";
import { useDesk, useNeeded } from "../desk/desk";
import { ChipsField } from "../chips-field";
import { DateField } from "../dates/date-field";
import { Field } from "../field";
import { PathExamples } from "./path-examples";
import { PlacesField } from "../places-field";
import { ScheduleEditor } from "./schedule-editor";

interface Props {
  condition: Condition;
  ruleset: Ruleset;
  /** What is wrong with the value as it is saved. */
  problem: string | undefined;
  onChange: (value: unknown) => void;
}

const languages = [
  "en",
  "pt",
  "es",
  "de",
  "fr",
  "it",
  "nl",
  "pt-PT",
  "pt-BR",
  "en-GB",
  "en-US",
  "pl",
  "sv",
  "da",
  "nb",
  "fi",
  "zh",
  "ja",
  "ar",
];

/** No values, always the very same: a box takes another list for a change from outside, and drops what is being typed. */
const none: readonly never[] = [];

/** The editor that fits a condition's value. */
export function ValueEditor({ condition, ruleset, problem, onChange }: Props) {
  useNeeded("products");
  const { pages, products } = useDesk();
  const { signal, op, value } = condition;
  const { value: shape } = operators[op];
  const info = signalInfo(signal === "query." ? "query.x" : signal, ruleset);
  if (!info) return null;
  // What it holds is judged by the kind of the signal, whose editor takes it.
  const list = (Array.isArray(value) ? value : none) as never[];
  switch (info.kind) {
    case "schedule":
      return (
        <ScheduleEditor
          schedule={(value ?? { zone: "site" }) as Schedule}
          siteZone={ruleset.site.zone}
          onChange={onChange}
        />
      );
    case "place":
      return (
        <PlacesField
          entries={list}
          lists
          problem={problem && t("Choose at least one place")}
          onChange={(entries) => onChange(entries.length === 0 ? undefined : entries)}
        />
      );
    case "language":
      return (
        <>
          <Chosen
            label={t("Languages")}
            options={languages}
            value={list}
            problem={problem}
            words={(tag) => `${languageName(tag)} (${tag})`}
            accept={(tag) =>
              isTypedTag(tag) ? undefined : t("“{tag}” is no language tag such as pt or pt-PT", { tag })
            }
            onChange={onChange}
          />
          <span className="quiet">
            {op === "prefers"
              ? t("The first choice of the browser: a visitor who reads Italian, then French, prefers Italian alone.")
              : t("Any choice of the browser: a visitor who prefers Italian and also reads French reads both.")}
          </span>
        </>
      );
    case "address":
      return (
        <Chosen
          label={t("Addresses or blocks")}
          options={[]}
          value={list}
          problem={problem}
          accept={(text) => {
            const block = parseBlock(text);
            return "problem" in block ? `“${text}” ${block.problem}` : undefined;
          }}
          onChange={onChange}
        />
      );
    case "number":
    case "money":
      return (
        <Numbers
          condition={condition}
          money={info.kind === "money"}
          currency={ruleset.site.currency}
          problem={problem}
          onChange={onChange}
        />
      );
    case "date":
      return (
        <DateField
          grain="day"
          label={t("Date")}
          value={typeof value === "string" ? value : ""}
          known={problem}
          problem={(text) => (text === "" ? t("Choose a date that exists") : undefined)}
          onCommit={onChange}
        />
      );
    case "flag":
      return null;
    default: {
      const closed = closedValues(signal);
      const options = closed ?? valuesInUse(signal, ruleset, { pages, products });
      if (shape === "words")
        return (
          <Words
            options={options}
            value={typeof value === "string" ? value : ""}
            problem={problem}
            onChange={onChange}
          />
        );
      if (shape === "texts")
        return <Chosen label={t("Values")} options={options} value={list} problem={problem} onChange={onChange} />;
      const current = typeof value === "string" ? value : "";
      return (
        <>
          {closed && shape === "text" ? (
            <TextField
              select
              value={closed.includes(current) ? current : ""}
              error={problem !== undefined}
              helperText={problem && t("Choose one")}
              onChange={(event) => onChange(event.target.value)}
              slotProps={{ htmlInput: { "aria-label": t("Value") } }}
            >
              {closed.map((item) => (
                <MenuItem key={item} value={item}>
                  {item}
                </MenuItem>
              ))}
            </TextField>
          ) : (
            <Field
              value={current}
              known={problem && (value === undefined ? t("Say which value") : problem)}
              placeholder={shape === "pattern" ? t("* stands for anything") : "value"}
              onCommit={(text) => onChange(text === "" && shape !== "text" ? undefined : text)}
              slotProps={{
                htmlInput: { "aria-label": t("Value"), list: options.length > 0 ? `in-use-${signal}` : undefined },
              }}
            />
          )}
          {signal === "page.path" && <PathExamples condition={condition} />}
          {!closed && options.length > 0 && (
            <datalist id={`in-use-${signal}`}>
              {options.map((item) => (
                <option key={item} value={item} />
              ))}
            </datalist>
          )}
        </>
      );
    }
  }
}

/** The words of a text as chips. */
function Words({
  options,
  value,
  problem,
  onChange,
}: {
  options: readonly string[];
  value: string;
  problem: string | undefined;
  onChange: (value: string | undefined) => void;
}) {
  const list = useMemo(() => words(value), [value]);
  return (
    <Chosen
      label={t("Words")}
      options={[...new Set(options.flatMap((text) => words(text)))]}
      value={list}
      problem={problem}
      onChange={(next) => onChange(next?.join(" "))}
    />
  );
}

interface ChosenProps {
  label: string;
  options: readonly string[];
  value: readonly string[];
  problem: string | undefined;
  words?: (value: string) => string;
  /** What is wrong with a value that was typed, if anything. */
  accept?: (value: string) => string | undefined;
  onChange: (value: string[] | undefined) => void;
}

/** A list of texts as chips, chosen or typed. */
function Chosen({ label, options, value, problem, words = (item) => item, accept, onChange }: ChosenProps) {
  return (
    <ChipsField
      label={label}
      options={options}
      value={value}
      nameOf={words}
      read={(text) => (accept?.(text) === undefined ? text : undefined)}
      refusal={(text) => accept?.(text) ?? ""}
      problem={problem && t("Choose at least one, or type it")}
      onChange={(list) => onChange(list.length === 0 ? undefined : list)}
    />
  );
}

function Numbers({
  condition,
  money,
  currency,
  problem,
  onChange,
}: {
  condition: Condition;
  money: boolean;
  currency: string;
  problem: string | undefined;
  onChange: (value: unknown) => void;
}) {
  const { op, value } = condition;
  const bad = (text: string) =>
    text.trim() === "" || !(money ? /^\d+(\.\d+)?$/ : /^-?\d+(\.\d+)?$/).test(text.trim())
      ? t("Give a number{money}", { money: money ? t(" such as 60.00, in {currency}", { currency }) : "" })
      : undefined;
  const read = (text: string): unknown => (money ? text.trim() : Number(text));
  const adornment = money ? { startAdornment: <InputAdornment position="start">{currency}</InputAdornment> } : {};
  if (operators[op].value !== "limits")
    return (
      <Field
        value={value === undefined ? "" : String(value)}
        known={problem}
        problem={bad}
        onCommit={(text) => onChange(read(text))}
        slotProps={{ htmlInput: { "aria-label": t("Number"), inputMode: "decimal" }, input: adornment }}
      />
    );
  const pair = Array.isArray(value) ? value : [undefined, undefined];
  const set = (index: number, text: string) =>
    onChange(pair.map((item, i) => (i === index ? read(text) : item)).map((item) => item ?? (money ? "0" : 0)));
  return (
    <div className="row">
      {[0, 1].map((index) => (
        <Field
          key={index}
          value={pair[index] === undefined ? "" : String(pair[index])}
          known={problem}
          problem={bad}
          onCommit={(text) => set(index, text)}
          slotProps={{
            htmlInput: { "aria-label": index === 0 ? t("From") : t("To"), inputMode: "decimal" },
            input: adornment,
          }}
        />
      ))}
    </div>
  );
}
