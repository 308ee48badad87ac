"use client";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import TextField from "@mui/material/TextField";
import Tooltip from "@mui/material/Tooltip";
import { Plus, Trash2 } from "lucide-react";
import {
  groupOf,
  isCondition,
  makeGroup,
  valueless,
  type Condition,
  type Group,
  type Op,
  type Rule,
} from "@/core/formats/rule";
import type { Ruleset } from "@/core/formats/ruleset";
import { checkRule } from "@/core/rules/check";
import { closedValues, opChoices, signalChoices } from "@/core/rules/choices";
import type { RuleTrace } from "@/core/rules/evaluate";
import { actualText } from "@/core/rules/explain";
import { opLabel } from "@/core/rules/sentence";
import { signalInfo, type SignalKind } from "@/core/visit/signals";
import { Field } from "../field";
import { ValueEditor } from "./value-editor";

interface Props {
  rule: Rule;
  /** The rule with every part's verdict for the lens at hand; undefined while it cannot be judged. */
  trace: RuleTrace | undefined;
  ruleset: Ruleset;
  onChange: (rule: Rule) => void;
}

const fresh: Condition = { signal: "", op: "is" };

/** Builds a rule from conditions and groups; each shows its verdict for the lens at hand. */
export function RuleEditor({ rule, trace, ruleset, onChange }: Props) {
  if (rule === null)
    return (
      <div className="stack">
        <span className="quiet">For everyone. Say when it is shown by adding a condition.</span>
        <div className="row">
          <Button startIcon={<Plus size={14} />} onClick={() => onChange({ all: [fresh] })}>
            Add a condition
          </Button>
        </div>
      </div>
    );
  // A single condition or audience stands in a group of one, so that another can be added beside it.
  const members = groupOf(rule);
  const whole: Rule = members ? rule : { all: [rule] };
  const wholeTrace: RuleTrace | undefined =
    members || !trace ? trace : { verdict: trace.verdict, group: "all", rules: [trace] };
  return <GroupEditor rule={whole} trace={wholeTrace} ruleset={ruleset} top onChange={onChange} />;
}

const groupWords: Record<Group, string> = {
  all: "All of these hold",
  any: "Any of these holds",
  none: "None of these holds",
};

function GroupEditor({
  rule,
  trace,
  ruleset,
  onChange,
  onRemove,
  top = false,
}: Omit<Props, "onChange"> & { onChange: (rule: Rule) => void; onRemove?: () => void; top?: boolean }) {
  const members = groupOf(rule);
  if (!members) return null;
  const { group, rules } = members;
  const set = (next: Rule[]) => onChange(next.length === 0 && top ? null : makeGroup(group, next));
  const traces = trace && "rules" in trace ? trace.rules : undefined;
  return (
    <div className="group" role="group" aria-label={groupWords[group]}>
      <div className="row">
        <Select
          value={group}
          onChange={(event) => onChange(makeGroup(event.target.value as Group, rules))}
          sx={{ flex: 1, fontWeight: 600 }}
          inputProps={{ "aria-label": "How the conditions go together" }}
        >
          {(Object.keys(groupWords) as Group[]).map((key) => (
            <MenuItem key={key} value={key}>
              {groupWords[key]}
            </MenuItem>
          ))}
        </Select>
        {trace && <VerdictMark verdict={trace.verdict} />}
        {onRemove && (
          <Tooltip title="Remove this group">
            <IconButton onClick={onRemove} aria-label="Remove this group">
              <Trash2 size={15} />
            </IconButton>
          </Tooltip>
        )}
      </div>
      {rules.length === 0 && <span className="error">This group is empty: add a condition or remove the group.</span>}
      {rules.map((inner, index) => {
        const replace = (next: Rule) => set(rules.map((item, i) => (i === index ? next : item)));
        const remove = () => set(rules.filter((_, i) => i !== index));
        const common = { trace: traces?.[index], ruleset, onChange: replace, onRemove: remove };
        if (inner !== null && groupOf(inner)) return <GroupEditor key={index} rule={inner} {...common} />;
        if (inner !== null && isCondition(inner)) return <ConditionEditor key={index} condition={inner} {...common} />;
        return <AudienceEditor key={index} rule={inner} {...common} />;
      })}
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button startIcon={<Plus size={14} />} onClick={() => set([...rules, fresh])}>
          Condition
        </Button>
        <Button
          startIcon={<Plus size={14} />}
          onClick={() => set([...rules, makeGroup(group === "any" ? "all" : "any", [fresh])])}
        >
          Group
        </Button>
        {ruleset.audiences.length > 0 && (
          <Button
            startIcon={<Plus size={14} />}
            onClick={() => set([...rules, { audience: ruleset.audiences[0]?.id ?? "" }])}
          >
            Audience
          </Button>
        )}
      </div>
    </div>
  );
}

function VerdictMark({ verdict }: { verdict: RuleTrace["verdict"] }) {
  const [sign, tone, words] =
    verdict === "true"
      ? ["✓", "yes", "holds"]
      : verdict === "false"
        ? ["✗", "no", "does not hold"]
        : ["?", "unsure", "cannot be told"];
  return (
    <b className={tone} title={`For this lens it ${words}`}>
      {sign}
    </b>
  );
}

function AudienceEditor({
  rule,
  trace,
  ruleset,
  onChange,
  onRemove,
}: Omit<Props, "onChange"> & { onChange: (rule: Rule) => void; onRemove: () => void }) {
  return (
    <div className={`cond ${trace?.verdict ?? ""}`}>
      <div className="row">
        <span className="quiet">Audience</span>
        <Select
          fullWidth
          value={rule && "audience" in rule ? rule.audience : ""}
          onChange={(event) => onChange({ audience: event.target.value })}
          inputProps={{ "aria-label": "Audience" }}
        >
          {ruleset.audiences.map((audience) => (
            <MenuItem key={audience.id} value={audience.id}>
              {audience.name}
            </MenuItem>
          ))}
        </Select>
        {trace && <VerdictMark verdict={trace.verdict} />}
        <IconButton onClick={onRemove} aria-label="Remove this audience">
          <Trash2 size={15} />
        </IconButton>
      </div>
    </div>
  );
}

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
  if (valueless.has(op)) return "none";
  if (["isOneOf", "isNoneOf", "isIn", "isNotIn", "prefers", "accepts"].includes(op)) return "list";
  if (op === "between") return "pair";
  return "one";
}

/** A condition on another signal: the op that fits it first, with a value only where one can be given at once. */
function startOn(signal: string, ruleset: Ruleset): Condition {
  const kind = signalInfo(signal, ruleset)?.kind ?? "text";
  const op = signal === "search.words" ? "hasAnyWord" : firstOp[kind];
  if (kind === "schedule")
    return { signal, op, value: { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] } };
  return { signal, op };
}

function ConditionEditor({
  condition,
  trace,
  ruleset,
  onChange,
  onRemove,
}: Omit<Props, "onChange" | "rule"> & { condition: Condition; onChange: (rule: Rule) => void; onRemove: () => void }) {
  const choices = signalChoices(ruleset);
  const query = condition.signal.startsWith("query.");
  const chosen = choices.find((choice) => choice.signal === (query ? "query." : condition.signal)) ?? null;
  const ops = opChoices(query && condition.signal === "query." ? "query.x" : condition.signal, ruleset);
  const problems = checkRule(condition, ruleset);
  const wrong = (part: string) =>
    problems.find((problem) => problem.path === part || problem.path.startsWith(`${part}/`))?.problem;
  const setOp = (op: Op) => {
    const keep = shapeOf(op) === shapeOf(condition.op);
    const wrapped =
      shapeOf(op) === "list" && typeof condition.value === "string" && condition.value !== ""
        ? [condition.value]
        : undefined;
    const unwrapped =
      shapeOf(op) === "one" && Array.isArray(condition.value) && typeof condition.value[0] === "string"
        ? condition.value[0]
        : undefined;
    const value = keep ? condition.value : (wrapped ?? unwrapped);
    onChange({
      signal: condition.signal,
      op,
      ...(value === undefined ? {} : { value }),
      ...(condition.exact ? { exact: true } : {}),
    });
  };
  return (
    <div
      className={`cond ${trace?.verdict ?? ""}`}
      role="group"
      aria-label={chosen ? `Condition on ${chosen.label}` : "A new condition"}
    >
      <div className="row">
        <Autocomplete
          fullWidth
          openOnFocus
          disableClearable
          options={choices}
          groupBy={(choice) => choice.group}
          value={chosen as never}
          getOptionLabel={(choice) => choice.label}
          isOptionEqualToValue={(a, b) => a.signal === b.signal}
          onChange={(_, choice) => onChange(startOn(choice.signal, ruleset))}
          renderInput={(input) => (
            <TextField
              {...input}
              placeholder="Choose what it depends on"
              error={chosen === null}
              autoFocus={condition.signal === ""}
              slotProps={{
                ...input.slotProps,
                htmlInput: { ...input.slotProps?.htmlInput, "aria-label": "What it depends on" },
              }}
            />
          )}
        />
        {trace && condition.signal !== "" && <VerdictMark verdict={trace.verdict} />}
        <Tooltip title="Remove this condition">
          <IconButton onClick={onRemove} aria-label="Remove this condition">
            <Trash2 size={15} />
          </IconButton>
        </Tooltip>
      </div>
      {query && (
        <Field
          label="Name of the parameter"
          value={condition.signal.slice(6)}
          problem={(text) => (text === "" ? "Give the name of the parameter, as in ?name=value" : undefined)}
          onCommit={(name) => onChange({ ...condition, signal: `query.${name}` })}
        />
      )}
      {chosen && (
        <Select
          value={ops.includes(condition.op) ? condition.op : ""}
          onChange={(event) => setOp(event.target.value as Op)}
          inputProps={{ "aria-label": "How it is compared" }}
        >
          {ops.map((op) => (
            <MenuItem key={op} value={op}>
              {opLabel(op)}
            </MenuItem>
          ))}
        </Select>
      )}
      {chosen && !valueless.has(condition.op) && (
        <ValueEditor
          condition={condition}
          ruleset={ruleset}
          problem={wrong("/value")}
          onChange={(value) =>
            onChange(value === undefined ? { ...condition, value: undefined } : { ...condition, value })
          }
        />
      )}
      {chosen && typeof condition.value === "string" && !closedValues(condition.signal) && (
        <FormControlLabel
          sx={{ my: -1.5 }}
          control={
            <Checkbox
              size="small"
              checked={condition.exact === true}
              onChange={(event) => onChange({ ...condition, exact: event.target.checked || undefined })}
            />
          }
          label={<span className="quiet">Capital letters count</span>}
        />
      )}
      {trace && "condition" in trace && condition.signal !== "" && (
        <span className="found">This lens: {actualText(trace, ruleset)}</span>
      )}
      {query && condition.signal === "query." && <span className="error">The parameter has no name yet.</span>}
    </div>
  );
}
