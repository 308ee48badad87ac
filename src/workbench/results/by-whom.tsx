import Button from "@mui/material/Button";
import { parted, type Dimension, type Outcome, type ResultRow } from "@/core/results/results";
import { rateOf } from "@/core/statistics/shares";
import { countryName } from "@/core/visit/countries";
import { plain } from "../parts/numbers";
import { Swatch } from "../parts/variants";

export type Split = Exclude<Dimension, "day">;
const splits: readonly { of: Split; name: string }[] = [
  { of: "source", name: "Source" },
  { of: "country", name: "Country" },
  { of: "device", name: "Device" },
];

interface Props {
  rows: readonly ResultRow[];
  goal: string | undefined;
  /** What was hoped for, in words: reached “order”. */
  did: string;
  split: Split;
  onSplit: (of: Split) => void;
  lines: readonly Pick<Outcome, "variant" | "arm">[];
  nameOf: (of: Pick<Outcome, "variant" | "arm">) => string;
  indexOf: (variant: string) => number;
}

/** By source, country or device: how often each variant was seen, and what came of it. */
export function ByWhom({ rows, goal, did, split, onSplit, lines, nameOf, indexOf }: Props) {
  return (
    <section className="stack" aria-label="By whom">
      <div className="row">
        <h2 style={{ flex: 1 }}>Who saw it</h2>
        {splits.map((item) => (
          <Button
            key={item.of}
            aria-pressed={split === item.of}
            variant={split === item.of ? "contained" : "outlined"}
            onClick={() => onSplit(item.of)}
          >
            {item.name}
          </Button>
        ))}
      </div>
      <table className="grid beside">
        <thead>
          <tr>
            <th>{splits.find((item) => item.of === split)?.name}</th>
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
          {parted(rows, split, goal)
            .slice(0, 20)
            .map((part) => (
              <tr key={part.key}>
                <td>{part.key === "" ? "not known" : split === "country" ? countryName(part.key) : part.key}</td>
                {lines.map((item) => {
                  const own = part.outcomes.find((one) => one.variant === item.variant && one.arm === item.arm);
                  const rate = own && rateOf({ hits: own.converted, of: own.visitors });
                  return (
                    <td key={`${item.variant}/${item.arm}`} className="num">
                      {own && own.exposures > 0 ? (
                        <>
                          {plain(own.exposures)}
                          {rate !== undefined && own.visitors >= 20 && (
                            <span className="quiet" title={`${own.converted} of ${own.visitors} visitors`}>
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
        Exposures, and the share of visitors who {did} where at least 20 are known. Among many groups some differ by
        chance: what looks better in one of them is an idea for a test, and no result.
      </span>
    </section>
  );
}
