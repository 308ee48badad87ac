// Draws the pictures of the demo nursery into public/brackenfold/. Run: node scripts/drawings.mjs
import { mkdirSync, writeFileSync } from "node:fs";

const out = new URL("../public/brackenfold/", import.meta.url);
mkdirSync(out, { recursive: true });
const r = (n) => Math.round(n * 10) / 10;

/** A frond from (x, y), leaning by `lean`, with leaflets on both sides. */
function frond(x, y, length, lean, color, pairs = 16) {
  let body = "";
  const points = Array.from({ length: pairs + 1 }, (_, i) => {
    const t = i / pairs;
    return { t, x: x + lean * length * t * t, y: y - length * (t - 0.18 * Math.abs(lean) * t * t) };
  });
  for (const { t, x: px, y: py } of points.slice(1)) {
    const size = length * 0.2 * Math.sin(Math.PI * (0.12 + 0.86 * (1 - t))) + 2;
    const tilt = Math.atan2(1, 2 * lean * t) * (180 / Math.PI);
    for (const side of [-1, 1])
      body += `<ellipse cx="${r(size / 2)}" cy="0" rx="${r(size / 2)}" ry="${r(size * 0.17)}" transform="translate(${r(px)} ${r(py)}) rotate(${r(-tilt + 90 + (side > 0 ? -34 : 214))})"/>`;
  }
  const path = points.map((p, i) => `${i ? "L" : "M"}${r(p.x)} ${r(p.y)}`).join("");
  return `<g fill="${color}"><path d="${path}" fill="none" stroke="${color}" stroke-width="${r(length * 0.014 + 1)}" stroke-linecap="round"/>${body}</g>`;
}
const fern = (x, y, size, colors, leans = [-0.95, 0.9, -0.55, 0.5, -0.2, 0.22]) =>
  leans.map((lean, i) => frond(x, y, size * (1 - 0.12 * Math.abs(lean)), lean, colors[i % colors.length])).join("");
const pot = (x, y, w, color) =>
  `<path d="M${x - w / 2} ${y}h${w}l${r(-w * 0.14)} ${r(w * 0.62)}h${r(-w * 0.72)}z" fill="${color}"/><rect x="${r(x - w * 0.55)}" y="${r(y - w * 0.08)}" width="${r(w * 1.1)}" height="${r(w * 0.17)}" rx="3" fill="${color}"/><path d="M${r(x - w * 0.5)} ${r(y + w * 0.09)}h${w}" stroke="#0002" stroke-width="2"/>`;
function rosette(x, y, size, colors, rings = 4) {
  let body = "";
  for (let ring = 0; ring < rings; ring++) {
    const radius = size * (1 - ring / rings);
    const n = 11 - ring * 2;
    for (let i = 0; i < n; i++) {
      const a = (360 / n) * i + ring * 17;
      body += `<path transform="translate(${x} ${y}) rotate(${r(a)})" d="M0 0C${r(radius * 0.35)} ${r(-radius * 0.25)} ${r(radius * 0.3)} ${r(-radius * 0.8)} 0 ${r(-radius)}C${r(-radius * 0.3)} ${r(-radius * 0.8)} ${r(-radius * 0.35)} ${r(-radius * 0.25)} 0 0" fill="${colors[ring % colors.length]}" stroke="#0001"/>`;
    }
  }
  return body;
}
const svg = (w, h, body) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" preserveAspectRatio="xMidYMax slice">${body}</svg>\n`;
const ground = (w, h, top, low, floor) =>
  `<defs><linearGradient id="g" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${top}"/><stop offset="1" stop-color="${low}"/></linearGradient></defs><rect width="${w}" height="${h}" fill="url(#g)"/>${floor ? `<path d="M0 ${h * 0.84}C${w * 0.3} ${h * 0.8} ${w * 0.7} ${h * 0.88} ${w} ${h * 0.83}V${h}H0z" fill="${floor}"/>` : ""}`;
const greens = ["#3f7a45", "#5a9656", "#2f6b3c", "#7cae62"];
const box = (x, y, w, h, lid, side, label) =>
  `<path d="M${x} ${y}h${w}v${h}h${-w}z" fill="${side}"/><path d="M${x - 6} ${y - 16}h${w + 12}v20h${-w - 12}z" fill="${lid}"/><rect x="${x + w * 0.18}" y="${y + h * 0.28}" width="${w * 0.64}" height="${h * 0.46}" rx="3" fill="#fbf7ea"/><text x="${x + w / 2}" y="${y + h * 0.57}" font-family="Georgia,serif" font-size="${r(w * 0.1)}" text-anchor="middle" fill="#33432f">${label}</text>`;
const flakes = (n, w, h) =>
  Array.from(
    { length: n },
    (_, i) => `<circle cx="${(i * 197) % w}" cy="${(i * 131 + 40) % h}" r="${2 + (i % 3)}" fill="#fff" opacity=".85"/>`,
  ).join("");

const pictures = {
  "hero-ferns": svg(
    800,
    420,
    ground(800, 420, "#e6eedd", "#cddfc2", "#b9cfa9") +
      fern(240, 370, 250, greens) +
      fern(520, 372, 310, ["#2f6b3c", "#5a9656", "#4b8750"]) +
      fern(690, 372, 180, ["#7cae62", "#94bd76"]),
  ),
  "hero-clinic": svg(
    800,
    420,
    ground(800, 420, "#f2e7d5", "#e5d3b6", "#cdb48d") +
      pot(250, 270, 150, "#b8633d") +
      fern(250, 262, 190, greens) +
      pot(520, 292, 120, "#c98a5a") +
      rosette(520, 258, 84, ["#7fa68c", "#98b99f", "#b4cfb5"]) +
      `<g transform="translate(640 120) rotate(24)"><rect x="-9" y="0" width="18" height="150" rx="8" fill="#8a5a2b"/><path d="M-30 145h60c4 60-8 96-30 112c-22-16-34-52-30-112z" fill="#8d969b"/></g>`,
  ),
  "hero-shade": svg(
    800,
    420,
    ground(800, 420, "#31483c", "#1f3329", "#182820") +
      `<circle cx="620" cy="90" r="130" fill="#dfe8b8" opacity=".14"/>` +
      fern(170, 390, 270, ["#6fa06b", "#8ab77f", "#558a58"]) +
      fern(450, 390, 340, ["#4f8a4c", "#9cc58c", "#6fa06b"]) +
      fern(690, 392, 220, ["#3f7a45", "#7cae62"]),
  ),
  "hero-frost": svg(
    800,
    420,
    ground(800, 420, "#dfe9f0", "#c3d5e0", "#eef4f7") +
      fern(300, 375, 220, ["#5d8577", "#7da295", "#4a7265"]) +
      `<path d="M420 360C420 200 500 130 580 130S740 200 740 360z" fill="#ffffff" opacity=".62"/><path d="M420 360C420 200 500 130 580 130S740 200 740 360" fill="none" stroke="#9db6c4" stroke-width="4"/>` +
      fern(580, 358, 180, ["#3f7a45", "#5a9656"]) +
      flakes(46, 800, 380),
  ),
  "hero-seeds": svg(
    800,
    420,
    ground(800, 420, "#f4ecd0", "#e6d8a6", "#cfbd80") +
      box(180, 190, 200, 160, "#2f6b3c", "#5a9656", "First frost") +
      box(440, 220, 170, 130, "#c2531b", "#dd8a55", "Kitchen") +
      Array.from(
        { length: 26 },
        (_, i) =>
          `<ellipse cx="${150 + ((i * 83) % 520)}" cy="${372 + ((i * 29) % 34)}" rx="6" ry="3.4" fill="${i % 2 ? "#6b4f2a" : "#8f6d3c"}" transform="rotate(${i * 37} ${150 + ((i * 83) % 520)} ${372 + ((i * 29) % 34)})"/>`,
      ).join(""),
  ),
  "hero-light": svg(
    800,
    420,
    ground(800, 420, "#fbead0", "#f3d3a0", "#d9b277") +
      `<circle cx="610" cy="150" r="84" fill="#fff6dd"/><circle cx="610" cy="150" r="130" fill="#fff6dd" opacity=".4"/>` +
      pot(280, 280, 150, "#8a5a2b") +
      fern(280, 270, 210, ["#4f8a4c", "#7cae62", "#3f7a45"]),
  ),
  "hero-visit": svg(
    800,
    420,
    ground(800, 420, "#e4ede6", "#cfe0d4", "#a8c2ae") +
      `<path d="M250 370V220L400 120L550 220V370z" fill="#f6fbf7" stroke="#5d8f7c" stroke-width="6"/><path d="M250 220H550M325 170V370M400 120V370M475 170V370" stroke="#5d8f7c" stroke-width="4" fill="none"/>` +
      fern(330, 368, 120, greens) +
      fern(470, 368, 140, greens) +
      fern(680, 380, 170, ["#7cae62"]),
  ),
};
const product = (body, top = "#eef3e8", low = "#dbe6cf") => svg(400, 300, ground(400, 300, top, low, "") + body);
Object.assign(pictures, {
  "harts-tongue": product(
    pot(200, 220, 90, "#b8633d") +
      [-0.7, 0.65, -0.35, 0.3, 0]
        .map(
          (lean, i) =>
            `<path d="M200 216C${200 + lean * 60} 150 ${200 + lean * 150} 110 ${200 + lean * 190} ${70 - 20 * (1 - Math.abs(lean))}C${200 + lean * 190 + 26} 120 ${200 + lean * 90 + 24} 180 206 216z" fill="${greens[i % 4]}"/>`,
        )
        .join(""),
  ),
  maidenhair: product(pot(200, 226, 80, "#7d8c8a") + fern(200, 220, 150, ["#86b46c", "#9cc58c", "#6fa05c"])),
  "lady-fern": product(pot(200, 232, 84, "#c98a5a") + fern(200, 226, 180, greens)),
  "sword-fern": product(
    pot(200, 232, 90, "#2f3a3d") + fern(200, 226, 190, ["#2f6b3c", "#3f7a45"], [-0.9, 0.85, -0.6, 0.55, -0.3, 0.25, 0]),
  ),
  echeveria: product(rosette(200, 160, 112, ["#7fa68c", "#98b99f", "#b4cfb5", "#d9b8b0"]), "#f5eee6", "#e8dacb"),
  haworthia: product(
    pot(200, 210, 96, "#c2531b") + rosette(200, 176, 82, ["#3f6b4c", "#5a8a62", "#78a67c"]),
    "#f5eee6",
    "#e8dacb",
  ),
  houseleek: product(
    rosette(140, 175, 72, ["#8a5a5a", "#9c7a5f", "#7fa06a"]) +
      rosette(260, 150, 84, ["#6f9060", "#8fae78", "#b06a60"]) +
      rosette(220, 235, 46, ["#7fa06a", "#9dbd83"]),
    "#f5eee6",
    "#e8dacb",
  ),
  "box-first-frost": product(box(110, 120, 180, 130, "#35586b", "#6d93a6", "First frost"), "#f4ecd0", "#eadfb6"),
  "box-kitchen": product(box(110, 120, 180, 130, "#c2531b", "#dd8a55", "Kitchen"), "#f4ecd0", "#eadfb6"),
  "box-meadow": product(box(110, 120, 180, 130, "#7b6a12", "#b3a445", "Meadow"), "#f4ecd0", "#eadfb6"),
  trowel: product(
    `<g transform="translate(200 30) rotate(18 0 120)"><rect x="-11" y="0" width="22" height="96" rx="10" fill="#8a5a2b"/><rect x="-5" y="90" width="10" height="30" fill="#767f84"/><path d="M-34 118h68c5 62-9 104-34 124c-25-20-39-62-34-124z" fill="#98a2a7"/></g>`,
    "#eceff0",
    "#d7dcde",
  ),
  "watering-can": product(
    `<path d="M130 130h120v110a14 14 0 0 1-14 14h-92a14 14 0 0 1-14-14z" fill="#3f7a6a"/><path d="M250 160l70-44 12 14-82 70z" fill="#35685a"/><path d="M316 104l26 30" stroke="#2b554a" stroke-width="10" stroke-linecap="round"/><path d="M130 150c-60-10-60 84 0 74" fill="none" stroke="#35685a" stroke-width="13"/>`,
    "#eceff0",
    "#d7dcde",
  ),
  secateurs: product(
    `<g fill="none" stroke-linecap="round"><path d="M150 250C150 190 190 170 205 140" stroke="#b3382c" stroke-width="17"/><path d="M250 250C250 190 210 170 195 140" stroke="#b3382c" stroke-width="17"/></g><path d="M196 148C176 110 190 70 214 46C222 84 222 120 208 150z" fill="#98a2a7"/><path d="M204 148C226 128 236 104 232 84C212 92 196 116 194 142z" fill="#767f84"/><circle cx="201" cy="146" r="7" fill="#333"/>`,
    "#eceff0",
    "#d7dcde",
  ),
});
for (const [name, text] of Object.entries(pictures)) writeFileSync(new URL(`${name}.svg`, out), text);
console.log(Object.keys(pictures).length, "pictures");
