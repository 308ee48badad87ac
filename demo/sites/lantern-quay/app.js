// The pages of Lantern Quay, drawn in the browser: another address is another drawing, without a request.
const rooms = [
  {
    id: "attic",
    name: "The attic",
    text: "Under the roof, with the harbour light turning past twice a minute.",
    price: "€88",
  },
  { id: "harbour", name: "The harbour room", text: "Two windows on the water, and a kettle.", price: "€104" },
];
const element = (name, attributes = {}, ...children) => {
  const made = document.createElement(name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
  made.append(...children);
  return made;
};
const link = (href, text, more = {}) => element("a", { href, ...more }, text);
const hero = (title, text, button, href) =>
  element(
    "section",
    { class: "hero" },
    element("span", { class: "badge" }, "Open all winter"),
    element("h1", {}, title),
    element("p", {}, text),
    link(href, button, { class: "button cta" }),
  );
const roomCard = ({ id, name, text, price }) =>
  element(
    "article",
    { class: "room", id: `room-${id}` },
    element("h2", {}, link(`/rooms/${id}`, name)),
    element("p", {}, text),
    element("b", { class: "price" }, price),
  );

const pages = {
  "/": () => [
    hero("Rooms with a view of the water", "Seven rooms, four boats, one breakfast.", "Book a room", "/rooms"),
    element("div", { class: "body" }, ...rooms.map(roomCard)),
  ],
  "/rooms": () => [element("div", { class: "body" }, element("h1", {}, "Rooms"), ...rooms.map(roomCard))],
  "/boats": () => [
    hero("Out before breakfast", "Four boats for hire, with oars or a small motor.", "Hire a boat", "/contact"),
  ],
  "/contact": () => [
    element(
      "div",
      { class: "body" },
      element("h1", {}, "Contact"),
      element("p", {}, "Write to the desk, and somebody answers before noon."),
    ),
  ],
};
for (const room of rooms)
  pages[`/rooms/${room.id}`] = () => [
    element(
      "div",
      { class: "body" },
      element("h1", {}, room.name),
      element("p", {}, room.text),
      element("p", { class: "stay" }, "Your stay so far: ", element("b", {}, "192,00 €")),
      link("/contact", "Book this room", { class: "button cta" }),
    ),
  ];
const titles = { "/": "Lantern Quay", "/rooms": "Rooms", "/boats": "Boats", "/contact": "Contact" };

function draw() {
  const path = location.pathname;
  const page = pages[path] ?? (() => [element("div", { class: "body" }, element("h1", {}, "There is no such page"))]);
  const app = document.getElementById("app");
  const main = element("main", {}, ...page());
  const head = element(
    "header",
    { class: "head" },
    element("b", {}, "Lantern Quay"),
    link("/", "Home"),
    link("/rooms", "Rooms"),
    link("/boats", "Boats"),
    link("/contact", "Contact"),
  );
  app.replaceChildren(
    head,
    main,
    element("footer", { class: "foot" }, "A made-up house by made-up water. No room here can be booked."),
  );
  document.title = titles[path] ?? rooms.find((room) => path === `/rooms/${room.id}`)?.name ?? "Lantern Quay";
}
document.addEventListener("click", (event) => {
  const to = event.target.closest?.("a[href]");
  if (!to || to.origin !== location.origin || event.defaultPrevented || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  history.pushState(null, "", to.href);
  draw();
  scrollTo(0, 0);
});
addEventListener("popstate", draw);
draw();
