import { t } from "../messages/t";
import * as z from "zod";
import { isFault, type Finding } from "../analysis/findings";
import { expectationText, runCheck } from "../checks/run";
import type { Engine } from "../decision/engine";
import type { Check } from "../formats/check";

const said = z.strictObject({ id: z.string(), says: z.string() });
export const reportSchema = z.strictObject({
  /** How many checks were run, and what those that failed found instead. */
  checks: z.number().int(),
  failed: z.array(said),
  /** Faults that the analysis found: what surely was not meant. */
  faults: z.array(z.strictObject({ kind: z.string(), says: z.string() })),
  /** How many findings are remarks, which keep nothing back. */
  notes: z.number().int(),
});
/** What checks and analysis say of a ruleset before it goes live. */
export type Report = z.output<typeof reportSchema>;

/** Runs all checks, and sorts what the analysis found. */
export function reportOf(engine: Engine, checks: readonly Check[], found: readonly Finding[]): Report {
  const { ruleset } = engine;
  const failed = checks.flatMap((check) => {
    const result = runCheck(check, engine);
    const wanted = expectationText(check.expect, ruleset);
    return result.passed
      ? []
      : [
          {
            id: check.id,
            says: t("{check}. Expected: {wanted}. Found: {found}.", { check: check.name, wanted, found: result.found }),
          },
        ];
  });
  const faults = found.filter((item) => isFault(item)).map(({ finding, says }) => ({ kind: finding, says }));
  return { checks: checks.length, failed, faults, notes: found.length - faults.length };
}

/** Everything in a report that keeps a release back, in words. */
export const failingIn = ({ failed, faults }: Report): string[] => [...failed, ...faults].map((item) => item.says);

/** Whether something in a report keeps a release from going live without a reason given. */
export const blocks = (report: Report): boolean => report.failed.length > 0 || report.faults.length > 0;
