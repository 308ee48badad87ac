import { said, t, text } from "@/core/messages/t";
import type { Goal, GoalWay } from "@/core/formats/goal";
import { toMinor } from "@/core/money/currency";

/** The ways in which a goal is reached, as they are chosen. */
export const goalWayNames: Record<GoalWay, string> = said({
  page: text("A page is reached"),
  click: text("A part of the page is clicked"),
  form: text("A form is sent"),
});

/** What is wrong with what a goal is worth, as it is typed; undefined: nothing. Nothing typed is no worth. */
export function worthProblem(text: string, currency: string): string | undefined {
  if (text.trim() === "") return undefined;
  const minor = toMinor(text.trim(), currency);
  return minor === undefined || minor <= 0
    ? t("An amount above 0, such as 60.00, in {currency}", { currency })
    : undefined;
}

/** A goal's name by the name under which it is counted: its own, or one that pages tell. */
export const goalName = (counted: string, goals: readonly Pick<Goal, "id" | "name">[]): string =>
  goals.find(({ id }) => id === counted)?.name ?? counted;
