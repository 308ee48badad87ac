import { readInvitation } from "@/data/people";
import { Join } from "@/workbench/door/join";

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const found = await readInvitation(token);
  return (
    <Join
      token={token}
      invited={found && { name: found.name, sites: found.sites.map(({ name, roles }) => ({ name, roles })) }}
    />
  );
}
