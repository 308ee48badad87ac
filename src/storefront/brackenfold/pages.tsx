import type { Answer } from "@/delivery/answer";
import { Slot } from "../slot";
import {
  adviceTopics,
  articles,
  categories,
  price,
  productBySku,
  products,
  type Article,
  type Product,
} from "./catalogue";

type Lines = NonNullable<Answer["visit"]["cart"]>["lines"];

function Cards({ items }: { items: readonly Product[] }) {
  return (
    <ul className="cards">
      {items.map((item) => (
        <li key={item.sku}>
          <a href={item.path}>
            <img src={item.picture} alt="" width={400} height={300} />
            <span>{item.name}</span>
            <b>{price(item.price)}</b>
          </a>
        </li>
      ))}
    </ul>
  );
}

/** The frame of every page: site bar, heading, what is in it, help and foot. */
export function Shell({ answer, children }: { answer: Answer; children: React.ReactNode }) {
  const lines = answer.visit.cart?.lines ?? [];
  const total = lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0);
  const signedIn = answer.visit.data?.signedIn === true;
  return (
    <>
      <Slot id="site-bar" answer={answer} />
      <header className="top">
        <a className="brand" href="/">
          Brackenfold
        </a>
        <nav aria-label="Categories">
          {categories.map((category) => (
            <a key={category.id} href={`/${category.id}`}>
              {category.name}
            </a>
          ))}
          <a href="/advice">Advice</a>
        </nav>
        <span className="to-cart">
          <form method="post" action="/member">
            <input type="hidden" name="back" value={new URL(answer.visit.url).pathname} />
            <button name="do" value={signedIn ? "out" : "in"} className="plain">
              {signedIn ? "Sign out" : "Sign in"}
            </button>
          </form>
          <a href="/cart">Cart{total > 0 ? ` · ${price(total)}` : ""}</a>
        </span>
      </header>
      <main>{children}</main>
      <Slot id="footer-help" answer={answer} />
      <footer>
        <span>Brackenfold is a made-up nursery. Nothing here is for sale.</span>
        <a href="/contact">Contact</a>
      </footer>
    </>
  );
}

export function Home({ answer }: { answer: Answer }) {
  return (
    <>
      <Slot id="home-hero" answer={answer} />
      <h2 className="section">In season</h2>
      <Cards items={["fern-01", "fern-02", "seed-01", "succ-01"].flatMap((sku) => productBySku.get(sku) ?? [])} />
    </>
  );
}

export function CategoryPage({ id, answer }: { id: string; answer: Answer }) {
  const category = categories.find((item) => item.id === id);
  return (
    <>
      <h1 className="section">{category?.name}</h1>
      <p className="lead">{category?.words}</p>
      <Slot id="category-note" answer={answer} />
      <Cards items={products.filter((item) => item.category === id)} />
    </>
  );
}

export function ProductPage({ item, answer }: { item: Product; answer: Answer }) {
  const wishes = answer.visit.data?.wishList;
  const wished = Array.isArray(wishes) && wishes.includes(item.sku);
  return (
    <>
      <Slot id="category-note" answer={answer} />
      <article className="product">
        <img src={item.picture} alt={item.name} width={400} height={300} />
        <div>
          <h1>{item.name}</h1>
          <p className="price">{price(item.price)}</p>
          <p>{item.words}</p>
          <form method="post" action="/cart-change">
            <input type="hidden" name="sku" value={item.sku} />
            <button name="do" value="add">
              Add to cart
            </button>
          </form>
          <form method="post" action="/wish">
            <input type="hidden" name="sku" value={item.sku} />
            <input type="hidden" name="back" value={item.path} />
            <button className="plain">{wished ? "Take off the wish list" : "Put on the wish list"}</button>
          </form>
        </div>
      </article>
    </>
  );
}

export function CartPage({ lines }: { lines: Lines }) {
  if (lines.length === 0)
    return (
      <>
        <h1 className="section">Your cart</h1>
        <p className="lead">
          It is empty. <a href="/ferns">Start with a fern?</a>
        </p>
      </>
    );
  return (
    <>
      <h1 className="section">Your cart</h1>
      <table className="cart">
        <thead>
          <tr>
            <th>Item</th>
            <th>Quantity</th>
            <th className="number">Price</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.sku}>
              <td>{productBySku.get(line.sku)?.name ?? line.sku}</td>
              <td>
                <form method="post" action="/cart-change">
                  <input type="hidden" name="sku" value={line.sku} />
                  <input
                    name="quantity"
                    type="number"
                    min={0}
                    max={99}
                    defaultValue={line.quantity}
                    aria-label="Quantity"
                  />
                  <button name="do" value="set">
                    Change
                  </button>
                </form>
              </td>
              <td className="number">{price(line.quantity * line.unitPrice)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th colSpan={2}>Total</th>
            <td className="number">{price(lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0))}</td>
          </tr>
        </tfoot>
      </table>
    </>
  );
}

/** A page of words. */
export function ArticlePage({ article, answer }: { article: Article; answer: Answer }) {
  return (
    <>
      <Slot id="category-note" answer={answer} />
      <article className="words">
        <h1>{article.title}</h1>
        {article.paragraphs.map((text) => (
          <p key={text}>{text}</p>
        ))}
      </article>
    </>
  );
}

/** Advice by topic: the tab is chosen by the query, so that a link can lead straight to each. */
export function AdvicePage({ answer }: { answer: Answer }) {
  const asked = new URL(answer.visit.url).searchParams.get("topic");
  const topic = adviceTopics.find((item) => item.id === asked) ?? adviceTopics[0];
  return (
    <>
      <h1 className="section">Advice</h1>
      <nav className="tabs" aria-label="Topics">
        {adviceTopics.map((item) => (
          <a key={item.id} href={`/advice?topic=${item.id}`} aria-current={item.id === topic.id ? "page" : undefined}>
            {item.name}
          </a>
        ))}
      </nav>
      <Slot id="category-note" answer={answer} />
      <article className="words">
        <h2>{topic.name}</h2>
        <p>{topic.words}</p>
        <p>
          More:{" "}
          {articles
            .filter((item) => item.category === "care")
            .map((item) => (
              <a key={item.path} href={item.path}>
                {item.title}
              </a>
            ))}
        </p>
      </article>
    </>
  );
}

/** Asks, once, whether a visitor may be remembered. Works without JavaScript. */
export function ConsentBar({ path }: { path: string }) {
  return (
    <form className="consent" method="post" action="/consent" aria-label="May we remember you?">
      <input type="hidden" name="back" value={path} />
      <span>May we remember in this browser what you looked at here, to show what fits?</span>
      <button name="answer" value="yes">
        Yes, remember
      </button>
      <button name="answer" value="no" className="plain">
        No
      </button>
    </form>
  );
}
