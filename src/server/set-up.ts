import { said, text } from "@/core/messages/t";
import { addAccount, endSetUpLink, isSetUpLink } from "@/data/accounts";
import { allSites, transaction } from "@/data/pool";
import { beginSession } from "@/data/sessions";
import { accountOf, newcomerProblem, type Newcomer } from "./people";
import { makeSiteIn, type NewSite, type NewSiteField } from "./sites";

export type SetUp =
  { ok: true; session: string; site: string } | { ok: false; status: number; problem: string; field?: NewSiteField };

const over: SetUp = said({
  ok: false,
  status: 404,
  problem: text("This set-up link was used already, or its hour is over. Start Mirada again for another."),
});

class Undone extends Error {
  constructor(readonly why: SetUp) {
    super();
  }
}

/** Sets an installation up: the first person, as its administrator, and the first site. All of it, or nothing. */
export async function setUp(token: string, newcomer: Newcomer, site: NewSite, browser: string): Promise<SetUp> {
  if (!(await isSetUpLink(token))) return over;
  const wrong = newcomerProblem(newcomer);
  if (wrong) return { ok: false, status: 422, problem: wrong };
  const account = await accountOf(newcomer, true);
  try {
    return await transaction<SetUp>(allSites, async (db) => {
      // Held until the end: of two at once the second finds it used.
      if (!(await isSetUpLink(token, db, true))) return over;
      const id = await addAccount(account, db);
      const made = await makeSiteIn({ id, name: account.name }, { ...site, copyOf: "" }, db);
      if (!made.ok) throw new Undone({ ok: false, status: 422, problem: made.problem, field: made.field });
      await endSetUpLink(db);
      return { ok: true, session: await beginSession(id, browser, db), site: made.site };
    });
  } catch (error) {
    if (error instanceof Undone) return error.why;
    throw error;
  }
}
