"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Copy, Share2, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useSearchParams } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { visitPhrases } from "@/core/lens/phrases";
import { Portion } from "../parts/lists/portion";
import { useSearch } from "../parts/lists/use-search";
import { useDesk, type Lens } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { useKeep } from "../parts/desk/use-keep";
import { widthOf, type Width } from "../parts/devices";
import { freshName } from "../parts/fresh";
import { Field } from "../parts/field";
import { SiteCell } from "../parts/page-frame/site-cell";
import { browserNow } from "./browser-now";
import { Film } from "./film";
import { ShareDialog } from "./share-dialog";

/** How much of a page a picture shows, in the page's own pixels, so that all pictures are equally tall. */
const heights: Record<Width, number> = { desktop: 760, tablet: 830, phone: 640 };

/** The made-up visitors, each with a picture of what they see; and one of them opened, step by step. */
export function LensesScreen() {
  const { lenses, pickLens, lens: current, look, ruleset, pages, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const go = useGo();
  const asked = useSearchParams().get("open");
  const open = lenses.find((item) => item.id === asked);
  const [sharing, setSharing] = useState<Pick<Lens, "name" | "visit">>();
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    if (asked) top.current?.scrollTo({ top: 0 });
  }, [asked]);
  const search = useSearch(lenses, t("lenses"), (lens) => lens.name);
  const titles = new Map(pages.map((page) => [page.path, page.title]));
  const { keep: keepAll, drop } = useKeep("lenses");
  const keep = (lens: Lens) => {
    const { page: _page, ...visit } = lens.visit;
    return keepAll([{ ...lens, visit }]);
  };
  const asThisBrowser = async () => {
    const visit = await browserNow(ruleset.site.origin, actions.askerAddress);
    const lens = { id: freshName("lens"), name: t("This browser, now"), visit, steps: [] };
    if (!(await keep(lens))) return;
    pickLens(lens);
    enqueueSnackbar(t("Saved as a lens: this browser as it looks right now. Cookies and consent are not its own."));
  };
  const lookThrough = (lens: Pick<Lens, "id" | "name" | "visit" | "steps">) => {
    pickLens(lens);
    go("/pages");
  };
  return (
    <main className="settings lenses" ref={top}>
      <div className="row">
        <h1>{t("Lenses")}</h1>
        <Button
          onClick={() => void keep({ id: freshName("lens"), name: t("A new lens"), visit: look.visit, steps: [] })}
        >
          {t("Save lens")}
        </Button>
        <Button onClick={() => void asThisBrowser()}>{t("Use this browser")}</Button>
        <Button onClick={() => setSharing({ name: t("Current visitor"), visit: look.visit })}>{t("Share lens")}</Button>
      </div>
      <p className="quiet" style={{ margin: "4px 0 12px" }}>
        {t(
          "A lens is a made-up visitor. Make one from the sentence, from a request pasted into it (a curl command, a line of an access log, a HAR entry), from someone whom the analysis finds, or from this browser.",
        )}
      </p>
      {open && (
        <section className="lensopen" aria-label={open.name}>
          <div className="row" style={{ alignItems: "flex-start" }}>
            <Field
              label={t("Name")}
              value={open.name}
              problem={(name) =>
                name.trim() === "" ? t("Give it a name") : name.length > 80 ? t("At most 80 characters") : undefined
              }
              onCommit={(name) => void keep({ ...open, name })}
              sx={{ maxWidth: 360 }}
            />
            <Button variant="contained" onClick={() => lookThrough(open)}>
              {t("View as this visitor")}
            </Button>
            <Button onClick={() => void keep({ ...open, visit: look.visit })}>
              {t("Update with the visit above")}
            </Button>
            <Button onClick={() => go("/lenses")}>{t("Close")}</Button>
          </div>
          <h3>{t("Visit, step by step")}</h3>
          <Film
            lens={open}
            onSteps={(steps) => void keep({ ...open, steps })}
            onLook={(item) => {
              look.setVisit(item.visit);
              go("/pages");
            }}
          />
        </section>
      )}
      {search.field}
      <div className="lenswall">
        <Portion items={search.found} step={24}>
          {(item) => {
            const phrases = visitPhrases(item.visit, ruleset, titles);
            return (
              <article key={item.id} className={`lenscard${item.id === current ? " current" : ""}`} data-lens={item.id}>
                <div className={`pic ${widthOf(item.visit)}`}>
                  <SiteCell
                    visit={item.visit}
                    title={item.name}
                    width={widthOf(item.visit)}
                    height={heights[widthOf(item.visit)]}
                  />
                </div>
                <button type="button" className="name" onClick={() => go(addressOf("/lenses", item.id))}>
                  {item.name}
                </button>
                <div className="rule">
                  {t("{page}, {visitor} on {device} in {place}, {time}", {
                    page: phrases.page,
                    visitor: phrases.visitor,
                    device: phrases.device,
                    place: phrases.place,
                    time: phrases.time,
                  })}
                  {item.steps.length > 0 &&
                    t(", and {steps, plural, one {one more page} other {# more pages}}", { steps: item.steps.length })}
                </div>
                <div className="row">
                  <Button color="secondary" onClick={() => lookThrough(item)}>
                    {t("View as this visitor")}
                  </Button>
                  <span style={{ flex: 1 }} />
                  <IconButton
                    size="small"
                    aria-label={t("Share {name}", { name: item.name })}
                    title={t("Share by link")}
                    onClick={() => setSharing(item)}
                  >
                    <Share2 size={14} />
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={t("Copy {name}", { name: item.name })}
                    title={t("Copy")}
                    onClick={() =>
                      void keep({
                        ...item,
                        id: freshName("lens"),
                        name: t("{name}, copy", { name: item.name }).slice(0, 80),
                      })
                    }
                  >
                    <Copy size={14} />
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={t("Delete {name}", { name: item.name })}
                    title={t("Delete")}
                    onClick={() => void drop(item, t("The lens “{name}” is deleted", { name: item.name }))}
                  >
                    <Trash2 size={14} />
                  </IconButton>
                </div>
              </article>
            );
          }}
        </Portion>
      </div>
      {sharing && <ShareDialog lens={sharing} onClose={() => setSharing(undefined)} />}
    </main>
  );
}
