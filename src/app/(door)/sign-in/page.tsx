import { redirect } from "next/navigation";
import { localPath } from "@/core/visit/url";
import { shownAccounts } from "@/data/people";
import { currentPerson } from "@/server/session";
import { site } from "@/server/site";
import { SignIn } from "@/workbench/door/sign-in";

export default async function Page({ searchParams }: { searchParams: Promise<{ next?: string | string[] }> }) {
  const { next } = await searchParams;
  const to = localPath(Array.isArray(next) ? next[0] : next);
  if (await currentPerson()) redirect(to);
  return <SignIn to={to} accounts={await shownAccounts(site)} />;
}
