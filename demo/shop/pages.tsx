import type { Filled } from "@/core/content/format";
import type { Answer } from "@/delivery/answer";
import { Block, textOf } from "./blocks";
import { Popup } from "@/in-process/popup";
import { Slot } from "./slot";
import { Watch } from "@/in-process/watch";
import { orderCookie, readOrder } from "./order";
import { writeCart } from "./cart";
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

/** The slots that the templates of the pages have a place for. Others stand at the end of the page. */
const placed = new Set([
  "site-bar",
  "site-header",
  "home-hero",
  "home-quiz",
  "home-strip",
  "category-note",
  "cart-note",
  "product-promise",
  "advice-topic",
  "footer-help",
]);

/** Name, categories and cart at the top of every page; its words come from the slot, in the visitor's language. */
function Header({ words, answer }: { words: Filled | undefined; answer: Answer }) {
  const lines = answer.visit.cart?.lines ?? [];
  const total = answer.decision.cart?.total ?? lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0);
  const signedIn = answer.visit.data?.signedIn === true;
  const word = (id: string, own: string) => (words && textOf(words, id)) || own;
  return (
    <header className="top">
      <a className="brand" href="/">
        Brackenfold
      </a>
      <nav aria-label="Categories">
        {categories.map((category) => (
          <a key={category.id} href={`/${category.id}`}>
            {word(category.id, category.name)}
          </a>
        ))}
        <a href="/advice">{word("advice", "Advice")}</a>
      </nav>
      <span className="to-cart">
        <form method="post" action="/member">
          <input type="hidden" name="back" value={pathAndQuery(answer.visit.url)} />
          <button name="do" value={signedIn ? "out" : "in"} className="plain">
            {signedIn ? word("sign-out", "Sign out") : word("sign-in", "Sign in")}
          </button>
        </form>
        <a href="/cart">
          {word("cart", "Cart")}
          {total > 0 ? ` · ${price(total)}` : ""}
        </a>
      </span>
    </header>
  );
}

/** Path and query of the page at hand: consent that is given on it counts for the link that led here, too. */
export const pathAndQuery = (address: string): string => {
  const url = new URL(address);
  return `${url.pathname}${url.search}`;
};

/** The frame of every page: site bar, heading, what is in it, help and foot, and a pop-up if one was decided. */
export function Shell({ answer, children }: { answer: Answer; children: React.ReactNode }) {
  const { popup } = answer.decision;
  return (
    <>
      <Slot id="site-bar" answer={answer} />
      <Slot id="site-header" answer={answer} draw={(words) => <Header words={words} answer={answer} />} />
      <main>
        {children}
        {answer.ruleset.slots
          .filter((slot) => !placed.has(slot.id))
          .map((slot) => (
            <Slot key={slot.id} id={slot.id} answer={answer} />
          ))}
      </main>
      <Slot id="footer-help" answer={answer} />
      <footer>
        <span>Brackenfold is a made-up nursery. Nothing here is for sale.</span>
        <a href="/letter">Letter</a>
        <a href="/contact">Contact</a>
      </footer>
      {!answer.look && (
        <Watch
          shown={shownIn(answer)}
          consent={answer.consent === "yes"}
          source={answer.source}
          counting={answer.counting}
          receipts={answer.receipts}
          of={answer.visit.at}
        />
      )}
      {popup?.content && (
        <Popup
          key={`${popup.id} ${popup.arm}`}
          popup={{ id: popup.id, arm: popup.arm, opensAfter: popup.opensAfter, size: popup.size }}
          place={placeOf(popup.content)}
          now={answer.look?.popup?.split("/")[0] === popup.id}
          telling={
            answer.look
              ? undefined
              : {
                  consent: answer.consent === "yes",
                  source: answer.source,
                  note: answer.openNote,
                  receipts: answer.receipts,
                }
          }
          label={textOf(popup.content, "headline") || "A word from Brackenfold"}
        >
          <Block block={popup.content} frames={answer.otherHosts} types={answer.ruleset.blockTypes} />
        </Popup>
      )}
    </>
  );
}

/** What is shown, as events name it. A pop-up tells of itself, once it opens. */
const shownIn = ({ decision }: Answer) =>
  Object.entries(decision.slots).flatMap(([slot, shown]) =>
    shown.map(({ variant, arm }) => ({ slot, variant: variant ?? "", arm: arm ?? "" })),
  );

/** Where a pop-up stands goes by the type of its block. */
const placeOf = (block: Filled): "box" | "corner" | "bar" =>
  block.type === "popup-corner" ? "corner" : block.type === "popup-bar" ? "bar" : "box";

export function Home({ answer }: { answer: Answer }) {
  return (
    <>
      <Slot id="home-quiz" answer={answer} />
      <Slot id="home-hero" answer={answer} />
      <Slot id="home-strip" answer={answer} />
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
      <Slot id="cart-note" answer={answer} />
      <Slot id="product-promise" answer={answer} />
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

/** What offers make of the cart, in short: each with its label, and the total that is paid. */
function Sums({ answer }: { answer: Answer }) {
  const bill = answer.decision.cart;
  if (!bill) return null;
  return (
    <tfoot>
      {(bill.adjustments.length > 0 || bill.freeDelivery) && (
        <tr>
          <th colSpan={2}>Subtotal</th>
          <td className="number">{price(bill.subtotal)}</td>
        </tr>
      )}
      {bill.adjustments.map((item) => (
        <tr key={item.offer} className="offer" data-offer={item.offer}>
          <th colSpan={2}>{item.label}</th>
          <td className="number">{item.amount === 0 ? "✓" : `−${price(-item.amount)}`}</td>
        </tr>
      ))}
      <tr className="total">
        <th colSpan={2}>Total{bill.freeDelivery ? ", delivered free" : ""}</th>
        <td className="number">{price(bill.total)}</td>
      </tr>
    </tfoot>
  );
}

export function CartPage({ answer }: { answer: Answer }) {
  const lines = answer.visit.cart?.lines ?? [];
  if (lines.length === 0)
    return (
      <>
        <h1 className="section">Your cart</h1>
        <Slot id="cart-note" answer={answer} />
        <p className="lead">
          It is empty. <a href="/ferns">Start with a fern?</a>
        </p>
      </>
    );
  return (
    <>
      <h1 className="section">Your cart</h1>
      <Slot id="cart-note" answer={answer} />
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
                    key={line.quantity}
                    name="quantity"
                    type="number"
                    min={0}
                    max={99}
                    defaultValue={line.quantity}
                    aria-label={`Quantity of ${productBySku.get(line.sku)?.name ?? line.sku}`}
                  />
                  <button name="do" value="set">
                    Change
                  </button>
                  <button name="do" value="remove" className="plain">
                    Remove
                  </button>
                </form>
              </td>
              <td className="number">{price(line.quantity * line.unitPrice)}</td>
            </tr>
          ))}
        </tbody>
        <Sums answer={answer} />
      </table>
      <div className="cart-acts">
        <a className="button" href="/checkout">
          To the checkout
        </a>
        <form method="post" action="/cart-change">
          <button name="do" value="empty" className="plain">
            Empty the cart
          </button>
        </form>
      </div>
      <p className="code">
        Cart code for our advice line: <code>{writeCart(new Map(lines.map((line) => [line.sku, line.quantity])))}</code>
      </p>
    </>
  );
}

/** The checkout, a stub: it shows what would be paid, by the same reckoning as the cart. */
export function CheckoutPage({ answer }: { answer: Answer }) {
  const lines = answer.visit.cart?.lines ?? [];
  const bill = answer.decision.cart;
  const order = readOrder(answer.visit.cookies?.[orderCookie]);
  const thanked = new URL(answer.visit.url).searchParams.get("said") === "thanks";
  return (
    <>
      <h1 className="section">Checkout</h1>
      <Slot id="cart-note" answer={answer} />
      {lines.length === 0 && order && thanked ? (
        <p className="lead" data-mirada-goal="order" data-mirada-value={order.total} data-mirada-once={order.number}>
          Thank you. Your order {order.number} over {price(order.total)} is made up, as everything here.
        </p>
      ) : lines.length === 0 ? (
        <p className="lead">
          Your cart is empty. <a href="/ferns">Start with a fern?</a>
        </p>
      ) : (
        <>
          <table className="cart">
            <tbody>
              {lines.map((line) => (
                <tr key={line.sku}>
                  <td>{productBySku.get(line.sku)?.name ?? line.sku}</td>
                  <td>{line.quantity}</td>
                  <td className="number">{price(line.quantity * line.unitPrice)}</td>
                </tr>
              ))}
            </tbody>
            <Sums answer={answer} />
          </table>
          <p className="lead">
            You pay <b>{price(bill?.total ?? 0)}</b>. This is a made-up shop: nothing is sent, and nothing is paid.
          </p>
          <form method="post" action="/order">
            <button>Order</button>
          </form>
        </>
      )}
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

/** Advice by topic: the tab is chosen by the query, so that a link can lead straight to each; its text is a slot. */
export function AdvicePage({ answer }: { answer: Answer }) {
  const asked = new URL(answer.visit.url).searchParams.get("topic");
  const topic = adviceTopics.find((item) => item.id === asked) ?? adviceTopics[0];
  const guides = articles.filter((item) => item.category === "care");
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
      <Slot id="advice-topic" answer={answer} />
      <p className="lead">
        More:{" "}
        {guides.map((item, index) => (
          <span key={item.path}>
            {index > 0 && ", "}
            <a href={item.path}>{item.title}</a>
          </span>
        ))}
      </p>
    </>
  );
}

/** The shop's letter: asks for an address, and says what became of it. */
export function LetterPage({ said, address }: { said: string | null; address: string | null }) {
  return (
    <>
      <h1 className="section">The winter letter</h1>
      {said === "thanks" ? (
        <p className="lead" role="status">
          Thank you. The next letter is yours. <a href="/ferns">Back to the ferns</a>
        </p>
      ) : (
        <form method="post" action="/letter-ask" className="ask lead">
          <label htmlFor="address">Your e-mail address</label>
          <input
            id="address"
            name="address"
            type="email"
            required
            maxLength={200}
            defaultValue={address ?? ""}
            aria-invalid={said === "wrong"}
            aria-describedby={said === "wrong" ? "address-problem" : undefined}
          />
          <button>Send me the letter</button>
          {said === "wrong" && (
            <p id="address-problem" className="problem" role="alert">
              This is no e-mail address: it needs a name, an @ and a host.
            </p>
          )}
        </form>
      )}
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
