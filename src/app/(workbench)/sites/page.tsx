import { redirect } from "next/navigation";
import { listAccounts } from "@/data/accounts";
import { listSites } from "@/data/sites";
import { currentAccount } from "@/server/session";
import { SitesScreen } from "@/workbench/sites/screen";

export default async function Page() {
  const account = await currentAccount();
  if (!account) redirect("/sign-in?next=%2Fsites");
  const { id, name, administrator } = account;
  const [sites, accounts] = await Promise.all([
    listSites(administrator ? undefined : id),
    administrator ? listAccounts() : [],
  ]);
  return <SitesScreen opened={{ sites, accounts }} me={{ id, name, administrator }} />;
}
