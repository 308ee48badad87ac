import { t } from "@/core/messages/t";
import { answerAction } from "@/server/answer-action";
import { installationActions } from "@/server/actions/installation";
import { currentAccount } from "@/server/session";

/** What is asked of the installation as a whole: POST /act/NAME. */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  return answerAction(request, (await params).name, installationActions, {
    who: currentAccount,
    refusal: (who, needs) =>
      needs === "administrator" && !who.administrator
        ? t("Sites and people are an administrator’s to change.")
        : undefined,
  });
}
