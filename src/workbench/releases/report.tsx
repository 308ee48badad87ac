"use client";
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
    <div className="stack report" role="note" aria-label="Checks and findings">
      <span className={failed.length > 0 ? "no" : checks > 0 ? "yes" : "quiet"}>
        {checks === 0
          ? "No checks are saved"
          : failed.length === 0
            ? `All ${checks} checks passed`
            : `${failed.length} of ${checks} checks failed`}
      </span>
      {failed.map((item) => line(item.id, item.says))}
      <span className={faults.length > 0 ? "no" : "yes"}>
        {faults.length === 0
          ? "No fault was found"
          : faults.length === 1
            ? "One fault was found"
            : `${faults.length} faults were found`}
        {notes > 0 ? `, and ${notes} ${notes === 1 ? "remark" : "remarks"}` : ""}
      </span>
      {faults.map((item, index) => line(index, item.says))}
      {onAccept && failed.length + faults.length > 0 && (
        <span className="quiet">Tick each thing that may go live anyway.</span>
      )}
    </div>
  );
}
