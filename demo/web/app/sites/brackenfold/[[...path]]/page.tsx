import { headers } from "next/headers";
import { notFound } from "next/navigation";
import { articles, categories, products, storePages } from "../../../../../shop/catalogue";
import {
  AdvicePage,
  ArticlePage,
  CartPage,
  CategoryPage,
  CheckoutPage,
  ConsentBar,
  pathAndQuery,
  Home,
  LetterPage,
  ProductPage,
  Shell,
} from "../../../../../shop/pages";
import { answerHeader, takeOver } from "@/in-process/handover";
import { LensBridge } from "@/in-process/lens-bridge";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ path?: string[] }> }) {
  const path = `/${((await params).path ?? []).join("/")}`;
  const page = storePages.find((one) => one.path === path);
  const incoming = await headers();
  const answer = takeOver(incoming.get(answerHeader));
  if (!page) notFound();
  if (!answer) return <p className="lead">The shop is being set up. Come back in a moment.</p>;
  const item = products.find((product) => product.path === path);
  const category = categories.find((one) => `/${one.id}` === path);
  const article = articles.find((one) => one.path === path);
  const search = incoming.get("x-mirada-search") ?? "";
  const query = new URLSearchParams(search);
  return (
    <Shell answer={answer}>
      <title>{path === "/" ? "Brackenfold" : `${page.title} · Brackenfold`}</title>
      <meta name="mirada-page" content={JSON.stringify({ title: page.title, ...page.facts })} />
      {path === "/" && <Home answer={answer} />}
      {category && <CategoryPage id={category.id} answer={answer} />}
      {item && <ProductPage item={item} answer={answer} />}
      {article && <ArticlePage article={article} answer={answer} />}
      {path === "/advice" && <AdvicePage answer={answer} />}
      {path === "/cart" && <CartPage answer={answer} />}
      {path === "/checkout" && <CheckoutPage answer={answer} />}
      {path === "/letter" && <LetterPage said={query.get("said")} address={query.get("address")} />}
      {answer.look ? (
        <LensBridge
          workbench={incoming.get("x-mirada-workbench") ?? ""}
          path={path}
          turn={Number(query.get("turn") ?? 0)}
          nonce={incoming.get("x-nonce") ?? ""}
        />
      ) : (
        answer.consent === "not asked" && <ConsentBar path={pathAndQuery(answer.visit.url)} />
      )}
    </Shell>
  );
}
