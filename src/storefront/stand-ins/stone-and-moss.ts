import { pageTag } from "@/script/tag";
import { lensLink } from "./frame";

/** The blog of a partner: a static page, the same for everybody, as a cache would hold it. Its slots are filled by the page script. */
export function partnerPage(server: string, key: string, shop: string, workbench: string, here: string): string {
  const target = "/ferns?utm_source=stone-and-moss&utm_medium=partner&utm_campaign=winter-light";
  const lens = lensLink(workbench, { target, referrer: here }).replaceAll("&", "&amp;");
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Moss in winter · Stone & Moss</title>
<style>
body{margin:0;font:17px/1.6 Georgia,serif;color:#2c2a26;background:#f7f5f0}
header,main{max-width:720px;margin:0 auto;padding:24px}
header{border-bottom:1px solid #d9d4c8;font-size:22px}
.note{min-height:28px;background:#ece7dc;padding:8px 24px;text-align:center;font:14px/28px system-ui,sans-serif}
.note a{color:inherit}.note p{margin:0}
.card{min-height:200px;box-sizing:border-box;border:1px solid #d9d4c8;padding:18px 22px;margin:28px 0;background:#fff}
.card strong{display:block;font-size:20px}.card a{display:inline-block;margin-top:8px;color:#1f5132}
</style>
<script>window.mirada={page:{id:"moss-in-winter",language:"en"}}</script>
${pageTag(server, key)}
</head>
<body>
<div class="note" data-mirada-slot="site-bar">Written on a walk, read by the fire.</div>
<header>Stone & Moss</header>
<main>
<h1>Moss in winter</h1>
<p>When the borders are bare, moss is the greenest thing in the garden. It asks for little: shade, damp stone, and to be left alone.</p>
<p>Our friends at <a href="${shop}${target.replaceAll("&", "&amp;")}">Brackenfold</a> (<a href="${lens}" target="mirada-workbench" rel="noreferrer">look at this arrival through a lens</a>) send ferns that like the same corner.</p>
<div class="card" data-mirada-slot="footer-help"><strong>A corner in the shade?</strong><p>Write to us, and we will say what grows there.</p></div>
<p>Next week: how to move a stone without waking what lives beneath it.</p>
</main>
<template data-mirada-type="bar"><a data-mirada-href="link"><span data-mirada-field="text"></span></a></template>
</body>
</html>
`;
}
