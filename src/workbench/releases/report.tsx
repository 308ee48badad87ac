"use client";
import { t } from "@/core/messages/t";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import type { Report } from "@/core/release/report";

interface Props {
  report: Report;
  /** What is to go live all the same, in the report's words; without it the report is only read. */
  accepted?: ReadonlySet<string>;
  onAccept?: (says: string, accept: boolean) => void;
}

/** What checks and analysis said. Each thing that fails is accepted by itself, where something is to go live all the same. */
export function ReportLines({ report, accepted, onAccept }: Props) {
  const { checks, failed, faults, notes } = report;
  const line = (key: React.Key, says: string) =>
    onAccept ? (
      <FormControlLabel
        key={key}
        className="accept"
        control={
          <Checkbox
            size="small"
            checked={accepted?.has(says) ?? false}
            onChange={(event) => onAccept(says, event.target.checked)}
          />
        }
        label={<span className="error">{says}</span>}
      />
    ) : (
      <span key={key} className="error">
        {says}
      </span>
    );
  return (
    <div className="stack report" role="note" aria-label={t("Checks and findings")}>
      <span className={failed.length > 0 ? "no" : checks > 0 ? "yes" : "quiet"}>
        {checks === 0
          ? t("No checks are saved")
          : failed.length === 0
            ? t("All {checks} checks passed", { checks })
            : t("{failed} of {checks} checks failed", { failed: failed.length, checks })}
      </span>
      {failed.map((item) => line(item.id, item.says))}
      <span className={faults.length > 0 ? "no" : "yes"}>
        {faults.length === 0
          ? t("No fault was found")
          : t("{faults, plural, one {One fault was found} other {# faults were found}}", { faults: faults.length })}
        {notes > 0 ? t(", and {notes} {notes, plural, one {remark} other {remarks}}", { notes }) : ""}
      </span>
      {faults.map((item, index) => line(index, item.says))}
      {onAccept && failed.length + faults.length > 0 && (
        <span className="quiet">{t("Tick each thing that may go live anyway.")}</span>
      )}
    </div>
  );
}
