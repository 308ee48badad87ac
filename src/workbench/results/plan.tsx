import { t } from "@/core/messages/t";
import { plansFor } from "@/core/statistics/planning";
import { plain, share } from "../parts/numbers";

interface Props {
  /** How many of those who saw it did what was hoped for. */
  rate: number;
  /** Visitors a week who are remembered. */
  weekly: number;
  /** What was hoped for, in words: reached “order”. */
  did: string;
}

/** How large a difference a test of two arms would tell here, in what time. */
export function TestPlan({ rate, weekly, did }: Props) {
  return (
    <details className="testplan">
      <summary>{t("What a test could tell here")}</summary>
      <div className="stack" style={{ gap: 6, paddingTop: 8 }}>
        <span className="quiet">
          {t(
            "About {weekly} visitors a week are remembered, of whom {rate} {did}. A test of two arms tells a rise of at least so much by then, in 4 of 5 tests, however often you look:",
            { weekly: plain(Math.round(weekly)), rate: share(rate), did },
          )}
        </span>
        <table className="grid" style={{ maxWidth: 460 }}>
          <thead>
            <tr>
              <th>{t("After")}</th>
              <th className="num">{t("Visitors an arm")}</th>
              <th className="num">{t("A rise to at least")}</th>
            </tr>
          </thead>
          <tbody>
            {plansFor(rate, weekly).map(({ weeks, each, rise }) => (
              <tr key={weeks}>
                <td>{t("{weeks, plural, one {# week} other {# weeks}}", { weeks })}</td>
                <td className="num">{plain(each)}</td>
                <td className="num">{rise === undefined ? t("none is told") : share(rate + rise)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
