"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import TextField from "@mui/material/TextField";
import { isValueless, operators, type Op, type SignalKind } from "@/core/formats/operators";
import type { Condition } from "@/core/formats/rule";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Way } from "@/core/rules/arrange";
import { checkRule } from "@/core/rules/check";
import {
  closedValues,
  freeSignals,
  namesInUse,
  opChoices,
  opWords,
  signalChoices,
  whyUnknown,
} from "@/core/ruleset/choices";
import { bestLanguages } from "@/core/rules/languages";
import { languageName } from "@/core/rules/sentence";
import { signalInfo } from "@/core/visit/signals";
import { useDesk, useNeeded } from "../desk/desk";
import { SignalSelect } from "../signal-select";
import { Explained } from "../explained";
import { useEditing } from "./editing";
import { ValueEditor } from "./value-editor";

const firstOp: Record<SignalKind, Op> = {
  text: "is",
  texts: "is",
  number: "gte",
  money: "gte",
  flag: "isTrue",
  date: "on",
  place: "isIn",
  language: "prefers",
  schedule: "within",
  address: "isIn",
};

/** What takes the shape of a value when the op changes: kept where it fits, dropped where it does not. */
function shapeOf(op: Op): string {
  const { value } = operators[op];
  return ["texts", "languages", "entries"].includes(value)
    ? "list"
    : ["nothing", "limits"].includes(value)
      ? value
      : "one";
}

/** A condition on another signal: the op that fits it first, with a value only where one can be given at once. */
function startOn(signal: string, ruleset: Ruleset): Condition {
  const kind = signalInfo(signal, ruleset)?.kind ?? (signal === "history.category." ? "number" : "text");
  const op = signal === "search.words" ? "hasAnyWord" : firstOp[kind];
  if (kind === "schedule")
    return {
      signal,
      op,
      value: { zone: "site", days: ["MO", "TU", "WE", "TH", "FR"], windows: [{ start: "09:00", end: "18:00" }] },
    };
  return { signal, op };
}

/** The form of one condition: what it depends on, how it is compared, and with what. Only what fits is offered. */
export function ConditionForm({ condition, way }: { condition: Condition; way: Way }) {
  const { replace, refused, otherLanguages } = useEditing();
  useNeeded("products");
  const { ruleset, pages, products, lenses, look } = useDesk();
  const choices = signalChoices(ruleset, refused);
  const named = freeSignals().find((item) => condition.signal.startsWith(item.signal));
  const chosen = choices.find((choice) => choice.signal === (named?.signal ?? condition.signal)) ?? null;
  const nameless = named !== undefined && condition.signal === named.signal;
  const fitting = opChoices(nameless ? `${named.signal}x` : condition.signal, ruleset);
  // From a file another may stand there that its kind has: it stays to be seen.
  const ops =
    fitting.includes(condition.op) ||
    checkRule({ ...condition, value: undefined }, ruleset).some(({ path }) => path === "/op")
      ? fitting
      : [...fitting, condition.op];
  const why = condition.op === "isKnown" || !chosen ? undefined : whyUnknown(condition.signal);
  const problems = checkRule(condition, ruleset);
  const wrong = (part: string) =>
    problems.find((problem) => problem.path === part || problem.path.startsWith(`${part}/`))?.problem;
  const change = (next: Condition) => replace(way, next);
  const chosenTags = Array.isArray(condition.value) ? condition.value.filter((tag) => typeof tag === "string") : [];
  const rest = otherLanguages.filter((tag) => !chosenTags.includes(tag));
  const setOp = (op: Op) => {
    const keep = shapeOf(op) === shapeOf(condition.op);
    const { value } = condition;
    const wrapped = shapeOf(op) === "list" && typeof value === "string" && value !== "" ? [value] : undefined;
    const unwrapped =
      shapeOf(op) === "one" && Array.isArray(value) && ["string", "number"].includes(typeof value[0])
        ? value[0]
        : undefined;
    const next = keep ? value : (wrapped ?? (unwrapped as unknown));
    change({
      signal: condition.signal,
      op,
      ...(next === undefined ? {} : { value: next }),
      ...(condition.exact ? { exact: true } : {}),
      ...(condition.unknown && op !== "isKnown" ? { unknown: true } : {}),
    });
  };
  return (
    <div className="condform">
      <SignalSelect
        choices={choices}
        chosen={chosen}
        onChoose={(signal) => change(startOn(signal, ruleset))}
        label={t("What it depends on")}
        placeholder={t("Choose what it depends on")}
        error={chosen === null}
        autoFocus={condition.signal === ""}
      />
      {named && (
        <Autocomplete
          freeSolo
          autoSelect
          openOnFocus
          options={[
            ...new Set([
              ...namesInUse(named.signal, ruleset, { pages, products }),
              ...(named.signal === "cookie."
                ? [look, ...lenses].flatMap(({ visit }) => Object.keys(visit.cookies ?? {}))
                : []),
            ]),
          ]}
          value={condition.signal.slice(named.signal.length)}
          onChange={(_, name) => change({ ...condition, signal: `${named.signal}${(name ?? "").trim()}` })}
          renderInput={(input) => (
            <TextField
              {...input}
              label={named.what}
              autoFocus={nameless}
              error={nameless}
              helperText={nameless ? t("Give its name, {example}", { example: named.example }) : undefined}
            />
          )}
        />
      )}
      {chosen && (
        <Select
          value={ops.includes(condition.op) ? condition.op : ""}
          onChange={(event) => setOp(event.target.value as Op)}
          inputProps={{ "aria-label": t("How it is compared") }}
          renderValue={(op) => opWords(op as Op, condition.signal)}
        >
          {ops.map((op) => (
            <MenuItem key={op} value={op} aria-label={opWords(op, condition.signal)} aria-describedby={`means-${op}`}>
              <Explained id={`means-${op}`} words={opWords(op, condition.signal)} means={t(operators[op].means)} />
            </MenuItem>
          ))}
        </Select>
      )}
      {chosen && !isValueless(condition.op) && (
        <ValueEditor
          condition={condition}
          ruleset={ruleset}
          problem={wrong("/value")}
          onChange={(value) =>
            change(value === undefined ? { ...condition, value: undefined } : { ...condition, value })
          }
        />
      )}
      {chosen &&
        typeof condition.value === "string" &&
        !closedValues(condition.signal) &&
        isText(condition, ruleset) && (
          <FormControlLabel
            sx={{ my: -1.5 }}
            control={
              <Checkbox
                size="small"
                checked={condition.exact === true}
                onChange={(event) => change({ ...condition, exact: event.target.checked || undefined })}
              />
            }
            label={<span className="quiet">{t("Match case")}</span>}
          />
        )}
      {condition.signal === "language" && chosenTags.length > 0 && rest.length > 0 && (
        <Button onClick={() => replace(way, bestLanguages(chosenTags, rest))}>
          {t("The best of this slot’s languages ({value})", {
            value: [...chosenTags, ...rest].map(languageName).join(", "),
          })}
        </Button>
      )}
      {why && (
        <TextField
          select
          label={t("If unknown, it")}
          value={condition.unknown ? "holds" : "not"}
          helperText={why}
          onChange={(event) => change({ ...condition, unknown: event.target.value === "holds" ? true : undefined })}
        >
          <MenuItem value="not">{t("does not match")}</MenuItem>
          <MenuItem value="holds">{t("matches")}</MenuItem>
        </TextField>
      )}
    </div>
  );
}

const isText = (condition: Condition, ruleset: Ruleset): boolean => {
  const kind = signalInfo(condition.signal, ruleset)?.kind;
  return kind === "text" || kind === "texts";
};
