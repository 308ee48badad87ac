import { listLinks } from "@/data/links";
import { Mossmail } from "../../../../../stand-ins/mossmail";
import { shopSite } from "../../../../../shop/door";
import { standInHere } from "../../here";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ path?: string[] }> }) {
  const { path = [] } = await params;
  const { origin, shop, workbench } = await standInHere();
  return (
    <Mossmail
      open={path[0] === "letters" ? path[1] : undefined}
      links={await listLinks(shopSite)}
      here={`${origin}/${path.join("/")}`}
      shop={shop}
      workbench={workbench}
    />
  );
}
