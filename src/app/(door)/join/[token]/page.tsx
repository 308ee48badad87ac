import { readInvitation } from "@/data/people";
import { site } from "@/server/site";
import { Join } from "@/workbench/door/join";

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const found = await readInvitation(site, token);
  return <Join token={token} invited={found && { name: found.name, roles: found.roles }} />;
}
