/** Parts of a page that are like another: the button of each card, each entry of a list. */
import { hostOf } from "./apart";
import { findThere } from "./places";
import { namesOf, pathWithin, selectorOf, type Found } from "./selectors";

/** Where a part stands, also within what draws itself apart. */
export interface Spot extends Found {
  /** Selectors of the elements in whose open shadow roots it lies, from the outermost on. */
  within?: string[];
}
/** What finds a part and all that is like it. */
export interface Like {
  selector: string;
  within?: string[];
  times: number;
}

const rootOf = (element: Element): ParentNode => (hostOf(element) ? (element.getRootNode() as ShadowRoot) : document);
const inside = (within: readonly string[]): { within?: string[] } => (within.length > 0 ? { within: [...within] } : {});

/** Where one part stands. @returns undefined: nothing tells it apart */
export function spotOf(element: Element): Spot | undefined {
  const found = selectorOf(element, rootOf(element));
  const host = hostOf(element);
  if (!found || !host) return found;
  const outer = spotOf(host);
  if (!outer) return undefined;
  return {
    selector: found.selector,
    byPosition: found.byPosition || outer.byPosition,
    within: [...(outer.within ?? []), outer.selector],
  };
}

/** Names that a part shares with its like: classes, and what it is; not what it says or where it leads. */
const isShared = (name: string): boolean => /^[\w-]+(\.|$|\[(class|itemprop|role|rel|type))/.test(name);
const mostTries = 600;

/** Elements that stand where this one does, in what is like the nearest thing around it that has its like beside it. */
function peersOf(element: Element, root: ParentNode): Element[] {
  const steps: number[] = [];
  const stop = root instanceof Document ? root.body : null;
  for (let here = element; here !== stop;) {
    const siblings = [...(here.parentElement ?? root).children];
    const like = siblings.filter(
      (other) =>
        other.localName === here.localName &&
        (here.classList.length === 0 || [...here.classList].some((name) => other.classList.contains(name))),
    );
    const found = like.flatMap((other) => {
      let at: Element | undefined = other;
      for (const step of steps) at = at?.children[step];
      return at?.localName === element.localName ? [at] : [];
    });
    if (found.length > 1) return found;
    if (!here.parentElement) break;
    steps.unshift(siblings.indexOf(here));
    here = here.parentElement;
  }
  return [];
}

/** What finds a part and all that is like it on the page. @returns undefined: nothing is like it, or no selector finds them all */
export function likeOf(element: Element): Like | undefined {
  const root = rootOf(element);
  const peers = peersOf(element, root);
  const host = hostOf(element);
  if (peers.length < 2) {
    // One in each of many that draw themselves apart.
    const outer = host && likeOf(host);
    const others = outer ? findThere(outer.selector, outer.within).flatMap(({ shadowRoot }) => shadowRoot ?? []) : [];
    const found = outer && selectorOf(element, root, others);
    return found && { ...outer, selector: found.selector, within: [...(outer.within ?? []), outer.selector] };
  }
  const outer = host && spotOf(host);
  if (host && !outer) return undefined;
  const own = namesOf(element, true).filter(isShared);
  const path = pathWithin(element, root);
  const around = path.map((one) => namesOf(one, false));
  let steps = element.localName;
  const downward = path.flatMap((one, index) => {
    const found = (around[index] ?? []).map((name) => `${name} > ${steps}`);
    steps = `${one.localName} > ${steps}`;
    return found;
  });
  const tries = [
    ...own,
    ...around.flat().flatMap((wide) => own.map((inner) => `${wide} ${inner}`)),
    ...downward,
    ...around.flatMap((outers, at) =>
      around
        .slice(at + 1)
        .flat()
        .flatMap((wide) => outers.flatMap((outer) => own.map((inner) => `${wide} ${outer} ${inner}`))),
    ),
    steps,
  ].slice(0, mostTries);
  const finds = (selector: string): boolean => {
    try {
      const found = [...root.querySelectorAll(selector)];
      return found.length === peers.length && peers.every((peer) => found.includes(peer));
    } catch {
      return false;
    }
  };
  const selector = tries.find((one) => one.length <= 500 && finds(one));
  if (selector === undefined) return undefined;
  return { selector, times: peers.length, ...inside(outer ? [...(outer.within ?? []), outer.selector] : []) };
}
