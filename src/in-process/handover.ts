import { randomUUID } from "node:crypto";
import type { Answer } from "@/delivery/answer";

/**
 * A request is decided at the door (src/proxy.ts), where cookies can be set and redirects sent, and its page is rendered
 * after that, in the same process. In between the answer waits here, under a name that the door puts into the request.
 */
const waiting = ((globalThis as { miradaAnswers?: Map<string, Answer> }).miradaAnswers ??= new Map<string, Answer>());
const most = 2000;

/** The header that names the waiting answer. The door drops it from what visitors send. */
export const answerHeader = "x-mirada-answer";

export function handOver(answer: Answer): string {
  const id = randomUUID();
  // Those that were never fetched (the visitor left) go first.
  if (waiting.size >= most) waiting.delete(waiting.keys().next().value as string);
  waiting.set(id, answer);
  return id;
}

export function takeOver(id: string | null): Answer | undefined {
  if (id === null) return undefined;
  const answer = waiting.get(id);
  waiting.delete(id);
  return answer;
}
