import { t } from "@/core/messages/t";
import { mayAs, refusal } from "@/core/people/roles";
import { answerAction } from "@/server/answer-action";
import { actions } from "@/server/actions";
import { asPerson } from "@/server/members";
import { currentAccount } from "@/server/session";

/** What is asked on a site: POST /s/SITE/act/NAME. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ site: string; name: string }> },
): Promise<Response> {
  const { site, name } = await params;
  return answerAction(request, name, actions, {
    who: async () => {
      const account = await currentAccount();
      const person = account && (await asPerson(account, site));
      return account && !person
        ? Response.json({ problem: t("You are none of the people of this site.") }, { status: 403 })
        : person;
    },
    refusal: (who, needs) =>
      needs === "signed in" || (needs !== "administrator" && mayAs(who, needs))
        ? undefined
        : refusal(who.roles, needs === "administrator" ? "people" : needs),
  });
}
