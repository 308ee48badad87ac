/** The one tag that a page carries. */

/** Under this name the page script keeps, for the tab, the rule that hides pointed parts while an answer is awaited. */
export const hideKey = "mirada-hide";

/**
 * The code of the tag, for the head of a page: hides the slots until they are filled, for so many milliseconds at most, and loads
 * the page script beside the page's own work. Should nothing come, the page's own content stands.
 */
export function tagCode(server: string, key: string, wait = 400): string {
  const text = JSON.stringify;
  return (
    `(function(d,w){var r=d.documentElement,s=d.createElement("style"),h="";` +
    // What the page script has kept of this site in this tab: the parts that slots were pointed at.
    `try{h=sessionStorage.getItem(${text(hideKey)})||""}catch(e){}` +
    `s.textContent="[data-mirada-wait] [data-mirada-slot]{visibility:hidden}"+h;d.head.appendChild(s);` +
    `r.setAttribute("data-mirada-wait","");setTimeout(function(){r.removeAttribute("data-mirada-wait")},w);` +
    `s=d.createElement("script");s.src=${text(`${server}/v1/page.js?key=${encodeURIComponent(key)}`)};s.async=true;` +
    `s.dataset.key=${text(key)};s.dataset.until=Date.now()+w;d.head.appendChild(s)})(document,${wait})`
  );
}

/** The tag as it is pasted into a page. */
export const pageTag = (server: string, key: string, wait?: number): string =>
  `<script>${tagCode(server, key, wait).replaceAll("</", "<\\/")}</script>`;
