import { isSetUpLink } from "@/data/accounts";
import { SetUp } from "@/workbench/door/set-up";

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return <SetUp token={token} good={await isSetUpLink(token)} />;
}
