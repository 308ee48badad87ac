"use client";
import type { Report } from "@/core/release/report";

/** What checks and analysis said. */
export function ReportLines({ report }: { report: Report }) {
  const { checks, failed, faults, notes } = report;
  return (
    <div className="stack report" role="note" aria-label="Checks and findings">
      <span className={failed.length > 0 ? "no" : checks > 0 ? "yes" : "quiet"}>
        {checks === 0 ? "No checks are saved" : failed.length === 0 ? `All ${checks} checks passed` : `${failed.length} of ${checks} checks failed`}
      </span>
      {failed.map((item) => (
        <span key={item.id} className="error">
          {item.says}
        </span>
      ))}
      <span className={faults.length > 0 ? "no" : "yes"}>
        {faults.length === 0 ? "No fault was found" : faults.length === 1 ? "One fault was found" : `${faults.length} faults were found`}
        {notes > 0 ? `, and ${notes} other ${notes === 1 ? "finding" : "findings"}` : ""}
      </span>
      {faults.map((item, index) => (
        <span key={index} className="error">
          {item.says}
        </span>
      ))}
    </div>
  );
} // prettier-ignore
