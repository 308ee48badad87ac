import type { SignedIn } from "@/data/people";

/** An editor who types on, as the workbench sends it: what was not answered is sent again under the same name. */
export async function typist(who: SignedIn) {
  const [{ changeDraft }, { isDatabaseAway }] = await Promise.all([import("@/server/draft"), import("@/data/pool")]);
  let going = true;
  let typed = 0;
  let slowest = 0;
  const failures: unknown[] = [];
  const work = (async () => {
    while (going && failures.length === 0) {
      const began = performance.now();
      const name = crypto.randomUUID();
      const before = typed === 0 ? "a" : String(typed);
      const edit = { do: "set" as const, at: ["slots", "a", "name"], before, after: String(typed + 1) };
      for (let kept = false; !kept && failures.length === 0;) {
        try {
          const done = await changeDraft(who, `typed ${typed + 1}`, [edit], name);
          if (done.ok) kept = true;
          else failures.push(done.problem);
        } catch (error) {
          if (!isDatabaseAway(error)) failures.push(error);
          await new Promise((next) => setTimeout(next, 200));
        }
      }
      typed += 1;
      slowest = Math.max(slowest, performance.now() - began);
      await new Promise((next) => setTimeout(next, 50));
    }
  })();
  return {
    /** So much was answered as kept. */
    typed: () => typed,
    /** The longest that one took, tries and all, in milliseconds. */
    slowest: () => slowest,
    failures,
    async end() {
      going = false;
      await work;
    },
  };
}
