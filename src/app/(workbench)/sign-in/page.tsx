import { redirect } from "next/navigation";
import { localPath } from "@/core/visit/url";
import { isAnybody, shownAccounts } from "@/data/accounts";
import { allSites, of } from "@/data/pool";
import { currentAccount } from "@/server/session";
import { NotSetUp } from "@/workbench/door/not-set-up";
import { SignIn } from "@/workbench/door/sign-in";
import type { Role } from "@/core/people/roles";

export default async function Page({ searchParams }: { searchParams: Promise<{ next?: string | string[] }> }) {
  const { next } = await searchParams;
  const to = localPath(Array.isArray(next) ? next[0] : next);
  if (await currentAccount()) redirect(to);
  if (!(await isAnybody())) return <NotSetUp />;
  const accounts = await shownAccounts(of(allSites));
  return <SignIn to={to} accounts={accounts.map((account) => ({ ...account, roles: account.roles as Role[] }))} />;
}
