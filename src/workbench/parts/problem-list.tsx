import { t } from "@/core/messages/t";
import type { Problem } from "@/core/formats/problem";

/** What is wrong with a file, each with its place in it. Long lists are cut, and that is said. */
export function ProblemList({ problems, most = 12 }: { problems: readonly Problem[]; most?: number }) {
  return (
    <ul className="problems" role="alert">
      {problems.slice(0, most).map((item, index) => (
        <li key={index}>
          {item.path && <code>{item.path}</code>} {item.problem}
        </li>
      ))}
      {problems.length > most && (
        <li className="quiet">{t("… and {problems} more", { problems: problems.length - most })}</li>
      )}
    </ul>
  );
}
