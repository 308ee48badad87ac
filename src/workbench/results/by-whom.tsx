import { said, t, text } from "@/core/messages/t";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { systemNames } from "@/core/lens/phrases";
import { asWeekdays, parted, type Group, type Outcome, type ResultRow } from "@/core/results/results";
import { weekdayNames } from "@/core/rules/phrases";
import { languageName } from "@/core/rules/sentence";
import { rateOf } from "@/core/statistics/shares";
import { countryName } from "@/core/visit/countries";
import { plain } from "../parts/numbers";
import { Swatch } from "../parts/variants";

export type Split = Group | "weekday";
const visits: Record<string, string> = said({ new: text("first visit"), back: text("was there before") });
const splits = (): readonly { of: Split; name: string; called?: (key: string) => string | undefined }[] => [
  { of: "source", name: t("Source") },
  { of: "campaign", name: t("Campaign") },
  { of: "visits", name: t("New or returning"), called: (key) => visits[key] },
  { of: "country", name: t("Country"), called: countryName },
  { of: "language", name: t("Language"), called: languageName },
  { of: "device", name: t("Device") },
  { of: "system", name: t("Operating system"), called: (key) => systemNames[key] },
  { of: "weekday", name: t("Weekday"), called: (key) => weekdayNames[Number(key)] },
];
/** So many groups stand on the screen; all of them are in the CSV. */
const mostGroups = 20;

interface Props {
  rows: readonly ResultRow[];
  /** By what those are parted that are no days. */
  by: Group;
  goal: string | undefined;
  /** What was hoped for, in words: reached “order”. */
  did: string;
  split: Split;
  onSplit: (of: Split) => void;
  lines: readonly Pick<Outcome, "variant" | "arm">[];
  nameOf: (of: Pick<Outcome, "variant" | "arm">) => string;
  indexOf: (variant: string) => number;
}

/** By one kind of group: how often each variant was seen, and what came of it. */
export function ByWhom({ rows, by, goal, did, split, onSplit, lines, nameOf, indexOf }: Props) {
  const { name, called } = splits().find((item) => item.of === split) ?? { name: "" };
  const parts = split === "weekday" ? parted(asWeekdays(rows), "day", goal) : parted(rows, split, goal);
  const isThere = split === "weekday" || split === by;
  const known = parts.some((part) => part.key !== "");
  return (
    <section className="stack" aria-label={t("By whom")}>
      <div className="row">
        <h2 style={{ flex: 1 }}>{t("Who saw it")}</h2>
        <TextField
          select
          label={t("By")}
          value={split}
          onChange={(event) => onSplit(event.target.value as Split)}
          sx={{ width: 200 }}
        >
          {splits().map((item) => (
            <MenuItem key={item.of} value={item.of}>
              {item.name}
            </MenuItem>
          ))}
        </TextField>
      </div>
      {!isThere && (
        <span className="quiet" role="status">
          {t("Counting …")}
        </span>
      )}
      <table className="grid beside" aria-busy={!isThere}>
        <thead>
          <tr>
            <th>{name}</th>
            {lines.map((item) => (
              <th key={`${item.variant}/${item.arm}`} className="num">
                <span className="shownvariant">
                  <Swatch index={indexOf(item.variant)} />
                  {nameOf(item)}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {parts.slice(0, mostGroups).map((part) => (
            <tr key={part.key}>
              <td>
                {part.key === ""
                  ? split === "campaign"
                    ? t("none")
                    : t("not known")
                  : (called?.(part.key) ?? part.key)}
              </td>
              {lines.map((item) => {
                const own = part.outcomes.find((one) => one.variant === item.variant && one.arm === item.arm);
                const rate = own && rateOf({ hits: own.converted, of: own.visitors });
                return (
                  <td key={`${item.variant}/${item.arm}`} className="num">
                    {own && own.exposures > 0 ? (
                      <>
                        {plain(own.exposures)}
                        {rate !== undefined && own.visitors >= 20 && (
                          <span
                            className="quiet"
                            title={t("{converted} of {visitors} visitors", {
                              converted: own.converted,
                              visitors: own.visitors,
                            })}
                          >
                            &ensp;{(rate * 100).toFixed(0)} %
                          </span>
                        )}
                      </>
                    ) : (
                      <span className="quiet">–</span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <span className="quiet">
        {t(
          "Exposures, and the share of visitors who {did} where at least 20 are known{parts}. {known}Among many groups some differ by chance: what looks better in one of them is an idea for a test, and no result.",
          {
            did,
            parts:
              parts.length > mostGroups
                ? t("; the {mostGroups} that saw most, all of them in the CSV", { mostGroups })
                : "",
            known:
              split === "visits" && known
                ? t("Whether a visitor was there before is known of those who gave consent. ")
                : "",
          },
        )}
      </span>
    </section>
  );
}
