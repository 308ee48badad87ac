import { listLinks } from "@/data/links";
import { listPages } from "@/data/pages";
import { products } from "../../../../../shop/catalogue";
import { Quarry } from "../../../../../stand-ins/quarry";
import { shopSite } from "../../../../../shop/door";
import { standInHere } from "../../here";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ path?: string[] }> }) {
  const { path = [] } = await params;
  const { origin, search, shop, workbench } = await standInHere();
  const words = (new URLSearchParams(search).get("q") ?? "").trim().slice(0, 200);
  const texts = new Map(products.map((product) => [product.path, product.words]));
  const pages = (await listPages(shopSite)).map(({ path: at, title }) => ({
    path: at,
    title,
    text: texts.get(at) ?? "",
  }));
  return (
    <Quarry
      search={words}
      links={await listLinks(shopSite)}
      pages={pages}
      here={`${origin}/${path.join("/")}${search}`}
      shop={shop}
      workbench={workbench}
    />
  );
}
