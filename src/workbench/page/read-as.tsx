import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import type { Value, ValueKind } from "@/core/collect/values";
import { valueWords } from "../parts/collect/words";
import { useDesk } from "../parts/desk/desk";

interface Props {
  /** What the part says. */
  says: string;
  kind: ValueKind;
  signal: string;
  /** What is read in it; undefined: nothing. */
  value: Value | undefined;
  /** What else there is to say of it. */
  children?: React.ReactNode;
}

/** How a part that was pointed at is read as a value. */
export function ReadAs({ says, kind, signal, value, children }: Props) {
  const { site } = useDesk().ruleset;
  return (
    <div className="stack" style={{ gap: 2 }} role="status" aria-label={t("How it is read")}>
      <span>
        {rich("It says “{says}”{value}", {
          says: says.length > 80 ? `${says.slice(0, 78)} …` : says,
          value: value !== undefined && (
            <>{rich(", read as {valueWords}", { valueWords: <b>{valueWords(signal, value, site)}</b> })}</>
          ),
        })}
      </span>
      {value === undefined && (
        <span className="missing">
          {kind === "number" || kind === "money"
            ? t("No number can be read in it.")
            : kind === "date"
              ? t("No date such as 2026-11-24 stands in it.")
              : t("It says nothing.")}
        </span>
      )}
      {children}
    </div>
  );
}
