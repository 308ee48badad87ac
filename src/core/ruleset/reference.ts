/** The reference of signals and operators, made from their tables (docs/signals.md). */
import { t } from "../messages/t";
import { operators, ops, type SignalKind } from "../formats/operators";
import { fixedSignals, namedSignals, signalGroups, signalName, type SignalTraits } from "../visit/signals";

const kindWords: Readonly<Record<SignalKind, string>> = {
  text: "a text",
  texts: "several texts",
  number: "a number",
  money: "an amount",
  flag: "yes or no",
  date: "a date",
  place: "a place",
  language: "languages",
  schedule: "an instant",
  address: "an IP address",
};

/** What of a named signal's name is free, as it stands in tables. */
const nameOf = (prefix: string): string => `${prefix}NAME`;

interface Line extends SignalTraits {
  signal: string;
  label: string;
  parameter?: string;
  kinds: string;
}

function lines(): Line[] {
  return [
    ...Object.entries(fixedSignals).map(([signal, entry]) => ({
      ...entry,
      signal,
      label: t(entry.label),
      kinds: kindWords[entry.kind],
    })),
    ...Object.entries(namedSignals).map(([prefix, entry]) => {
      const described = entry.describe("NAME", {
        dataFields: [],
        markers: [{ id: "NAME", name: "NAME" }],
        offers: [{ id: "NAME", name: "NAME" }],
      });
      return {
        ...entry,
        signal: nameOf(prefix),
        label: described?.label ?? "a declared data field",
        kinds: described ? kindWords[described.kind] : "as declared",
      };
    }),
  ];
}

const row = (cells: readonly string[]): string => `| ${cells.map((cell) => cell.replaceAll("|", "\\|")).join(" | ")} |`;
const table = (heads: readonly string[], rows: readonly (readonly string[])[]): string =>
  [row(heads), row(heads.map(() => "---")), ...rows.map(row)].join("\n");

/** The whole as Markdown. */
export function signalReference(): string {
  const all = lines();
  const parts = signalGroups.flatMap((group) => {
    const mine = all.filter((line) => line.group === group);
    return mine.length === 0
      ? []
      : [
          `### ${group}`,
          table(
            ["signal", "called", "what it is", "reads as", "value", "also found by", "may be unknown"],
            mine.map(({ signal, label, means, kinds, also, unknown, values, parameter }) => [
              `\`${signal}\``,
              signalName(signal, label),
              t(means),
              label,
              values ? `${kinds}: ${values.join(", ")}` : kinds,
              [parameter, also && t(also)].filter(Boolean).join(" "),
              unknown ? t(unknown.why) : "",
            ]),
          ),
        ];
  });
  return [
    "# Signals and operators",
    "Made from the tables in `src/core/visit/signals.ts` and `src/core/formats/operators.ts` by `npm run reference`; what each means exactly is told by [engine.md](engine.md).",
    "## Signals",
    ...parts,
    "## Operators",
    table(
      ["operator", "reads as", "holds when", "fits", "takes", "denies"],
      ops.map((op) => {
        const { words, means, kinds, value, denies } = operators[op];
        return [
          `\`${op}\``,
          t(words),
          t(means),
          kinds.join(", "),
          value === "nothing" ? "" : value,
          denies ? `\`${denies}\`` : "",
        ];
      }),
    ),
    "",
  ].join("\n\n");
}
