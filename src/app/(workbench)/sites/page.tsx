import { redirect } from "next/navigation";
import { currentAccount } from "@/server/session";
import { sitesNow } from "@/server/sites";
import { SitesScreen } from "@/workbench/sites/screen";

export default async function Page() {
  const account = await currentAccount();
  if (!account) redirect("/sign-in?next=%2Fsites");
  const { id, name, administrator } = account;
  return <SitesScreen opened={await sitesNow(account)} me={{ id, name, administrator }} />;
}
