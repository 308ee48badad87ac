/** Asks to be let in. A problem in words; undefined: one is signed in. */
import { t } from "@/core/messages/t";
export async function enter(input: Record<string, string>): Promise<string | undefined> {
  try {
    const answer = await fetch("/enter", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(input),
    });
    if (answer.ok) return undefined;
    return ((await answer.json()) as { problem: string }).problem;
  } catch {
    return t("The server could not be reached. Try again.");
  }
}

/** Goes on with everything made anew: whoever signed in or out sees nothing of what stood here before. */
export const goFresh = (to: string): void => window.location.assign(to);
