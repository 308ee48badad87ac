import { cookies, headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { categories, products, storePages } from "@/storefront/brackenfold/catalogue";
import { CartPage, CategoryPage, Home, ProductPage, Shell } from "@/storefront/brackenfold/pages";
import { answerShop } from "@/storefront/brackenfold/request";
import { LensBridge } from "@/storefront/lens-bridge";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ path?: string[] }> }) {
  const path = `/${((await params).path ?? []).join("/")}`;
  if (!storePages.some((page) => page.path === path)) notFound();
  const incoming = await headers();
  const search = incoming.get("x-mirada-search") ?? "";
  const answer = await answerShop({ headers: incoming, cookies: (await cookies()).getAll(), path, search });
  if (!answer) return <p className="lead">The shop is being set up. Come back in a moment.</p>;
  if (answer.decision.redirect && !answer.look) redirect(answer.decision.redirect.location);
  const item = products.find((product) => product.path === path);
  const category = categories.find((one) => `/${one.id}` === path);
  return (
    <Shell answer={answer}>
      {path === "/" && <Home answer={answer} />}
      {category && <CategoryPage id={category.id} answer={answer} />}
      {item && <ProductPage item={item} answer={answer} />}
      {path === "/cart" && <CartPage lines={answer.visit.cart?.lines ?? []} />}
      {answer.look && (
        <LensBridge
          workbench={incoming.get("x-mirada-workbench") ?? ""}
          path={path}
          turn={Number(new URLSearchParams(search).get("turn") ?? 0)}
        />
      )}
    </Shell>
  );
}
