"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Checkbox from "@mui/material/Checkbox";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { FormProvider, useWatch } from "react-hook-form";
import * as z from "zod";
import { fold } from "@/core/text/fold";
import type { NewSite, SitesNow } from "@/server/types";
import { goFresh } from "../door/enter";
import { Mark } from "../door/mark";
import { installationActions as actions, whyNot } from "../parts/actions";
import { siteBase } from "../parts/desk/site-address";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { useForm } from "../parts/form/use-form";
import { emptySite, newSite, SiteForm } from "./site-form";

const newSiteForm = z.object({ site: newSite });

type Site = SitesNow["sites"][number];

interface Props {
  opened: SitesNow;
  me: { id: string; name: string; administrator: boolean };
}

/** All sites that one may work on, and, for administrators, making, archiving and deleting them, and who keeps the installation. */
export function SitesScreen({ opened, me }: Props) {
  const [{ sites, accounts }, setNow] = useState(opened);
  const [text, setText] = useState("");
  const [making, setMaking] = useState(false);
  const [deleting, setDeleting] = useState<Site>();
  const { enqueueSnackbar } = useSnackbar();
  const load = () => actions.sites().then(setNow, () => undefined);
  const act = async (ask: () => Promise<unknown>, done: string) => {
    const wrong = await ask().catch(whyNot);
    const failed = typeof wrong === "string";
    enqueueSnackbar(failed ? wrong : done, { variant: failed ? "error" : "success" });
    await load();
  };
  const wanted = fold(text.trim());
  const found = sites.filter((site) => fold(`${site.name} ${site.id} ${site.origins.join(" ")}`).includes(wanted));
  const leave = async () => {
    await fetch("/leave", { method: "POST" }).catch(() => undefined);
    goFresh("/sign-in");
  };
  return (
    <div className="sites">
      <header className="topline">
        <span className="mark">
          <Mark />
          Mirada
        </span>
        <div className="end">
          <span className="quiet">{me.name}</span>
          <Button onClick={() => void leave()}>{t("Sign out")}</Button>
        </div>
      </header>
      <main className="settings">
        <div className="row">
          <h1 style={{ flex: 1 }}>{t("Sites")}</h1>
          {sites.length > 5 && (
            <TextField
              label={t("Find a site")}
              value={text}
              onChange={(event) => setText(event.target.value)}
              sx={{ width: 240 }}
            />
          )}
          {me.administrator && (
            <Button variant="contained" onClick={() => setMaking(true)}>
              {t("New site")}
            </Button>
          )}
        </div>
        {sites.length === 0 && (
          <p>
            {me.administrator
              ? t("There is no site yet. Make the first one: its name and its address are enough.")
              : t("You work on no site yet. An administrator, or a developer of a site, invites you.")}
          </p>
        )}
        {sites.length > 0 && found.length === 0 && <p>{t("No site is called that.")}</p>}
        <ul className="sitelist">
          {found.map((site) => (
            <li key={site.id} data-archived={site.archivedAt ? "" : undefined}>
              <span>
                {/* Loaded anew: what a screen may show in its frame goes by its site. */}
                <a href={`${siteBase(site.id)}/pages`}>{site.name}</a>
                <span className="quiet">{site.origin}</span>
              </span>
              <span className={site.release === null || site.archivedAt ? "pill draft" : "pill live"}>
                {site.archivedAt
                  ? t("Archived")
                  : site.release === null
                    ? t("Nothing live")
                    : t("Release {release}", { release: site.release })}
              </span>
              {me.administrator && (
                <span className="row">
                  <Button
                    aria-label={
                      site.archivedAt
                        ? t("Work again on {site}", { site: site.name })
                        : t("Archive {site}", { site: site.name })
                    }
                    onClick={() =>
                      void act(
                        () => actions.archiveSite(site.id, !site.archivedAt),
                        site.archivedAt
                          ? t("{site} is worked on again", { site: site.name })
                          : t("{site} is archived: its visitors get the pages’ own content", { site: site.name }),
                      )
                    }
                  >
                    {site.archivedAt ? t("Work on it again") : t("Archive")}
                  </Button>
                  {site.archivedAt && (
                    <Button
                      color="error"
                      aria-label={t("Delete {site}", { site: site.name })}
                      onClick={() => setDeleting(site)}
                    >
                      {t("Delete …")}
                    </Button>
                  )}
                </span>
              )}
            </li>
          ))}
        </ul>
        {me.administrator && (
          <section className="setting" aria-label={t("Administrators")}>
            <div>
              <h2>{t("Administrators")}</h2>
              <p className="quiet">
                {t(
                  "They make sites and look after the people of every site. At least one stays. Who works on which site is kept there, under Settings, People.",
                )}
              </p>
            </div>
            <div className="stack" style={{ gap: 0 }}>
              {accounts.map((account) => (
                <FormControlLabel
                  key={account.id}
                  control={
                    <Switch
                      checked={account.administrator}
                      onChange={(_event, on) =>
                        void act(
                          () => actions.setAdministrator(account.id, on),
                          on
                            ? t("{name} is an administrator", { name: account.name })
                            : t("{name} is no administrator any more", { name: account.name }),
                        )
                      }
                    />
                  }
                  label={
                    <>
                      {account.name} <span className="quiet">{account.email}</span>
                    </>
                  }
                />
              ))}
            </div>
          </section>
        )}
      </main>
      {making && <NewSiteDialog sites={sites} onClose={() => setMaking(false)} />}
      {deleting && (
        <DeleteDialog
          site={deleting}
          onClose={() => setDeleting(undefined)}
          onDelete={async (name) => {
            const wrong = await actions.deleteSite(deleting.id, name).catch(whyNot);
            if (wrong !== undefined) return wrong;
            setDeleting(undefined);
            enqueueSnackbar(t("{deleting} is deleted", { deleting: deleting.name }), { variant: "success" });
            await load();
            return undefined;
          }}
        />
      )}
    </div>
  );
}

function NewSiteDialog({ sites, onClose }: { sites: readonly Site[]; onClose: () => void }) {
  const form = useForm(newSiteForm, { site: emptySite() });
  const copyOf = useWatch({ control: form.control, name: "site.copyOf" });
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const make = async ({ site }: { site: NewSite }) => {
    setBusy(true);
    setProblem(undefined);
    const done = await actions.makeSite(site).catch((error: unknown) => whyNot(error));
    if (typeof done !== "string" && done.ok) return goFresh(`${siteBase(done.site)}/connect`);
    setBusy(false);
    if (typeof done === "string") setProblem(done);
    else form.setError(`site.${done.field}`, { message: done.problem }, { shouldFocus: true });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="new-site">
      <FormProvider {...form}>
        <Form form={form} onSend={make}>
          <DialogTitle id="new-site">{t("New site")}</DialogTitle>
          <DialogContent className="stack" sx={{ pt: "8px !important" }}>
            <SiteForm autoFocus />
            {sites.length > 0 && (
              <FormText
                control={form.control}
                name="site.copyOf"
                select
                label={t("Begin with")}
                helperText={
                  copyOf
                    ? t(
                        "Slots, versions, rules, lenses, checks, links and pages are copied; people, keys, releases and results are not",
                      )
                    : undefined
                }
                slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              >
                <MenuItem value="">{t("Nothing")}</MenuItem>
                {sites.map((item) => (
                  <MenuItem key={item.id} value={item.id}>
                    {t("A copy of {name}", { name: item.name })}
                  </MenuItem>
                ))}
              </FormText>
            )}
            {problem && (
              <span className="error" role="alert">
                {problem}
              </span>
            )}
          </DialogContent>
          <DialogActions sx={{ px: "22px", pb: 4 }}>
            <Button onClick={onClose}>{t("Cancel")}</Button>
            <Button type="submit" variant="contained" disabled={busy}>
              {busy ? t("Making …") : t("Make the site")}
            </Button>
          </DialogActions>
        </Form>
      </FormProvider>
    </Dialog>
  );
}

/** The last word before a site is gone: its archive first, then its name. */
function DeleteDialog({
  site,
  onClose,
  onDelete,
}: {
  site: Site;
  onClose: () => void;
  onDelete: (name: string) => Promise<string | undefined>;
}) {
  const [kept, setKept] = useState(false);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string>();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="delete-site">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void onDelete(name).then(setProblem);
        }}
      >
        <DialogTitle id="delete-site">{t("Delete {site}", { site: site.name })}</DialogTitle>
        <DialogContent className="stack">
          <span>
            {t(
              "Everything goes: slots, versions, rules, releases, results, keys and who worked on it. It cannot be taken back. Its archive holds what can be read in again.",
            )}
          </span>
          <Button component="a" href={`${siteBase(site.id)}/archive`} download onClick={() => setKept(true)}>
            {t("Export archive of {site}", { site: site.name })}
          </Button>
          <FormControlLabel
            control={<Checkbox checked={kept} onChange={(_event, on) => setKept(on)} />}
            label={t("I have its archive, or need none")}
          />
          <TextField
            label={t("Type {site} to delete it", { site: site.name })}
            value={name}
            onChange={(event) => setName(event.target.value)}
            error={problem !== undefined}
            helperText={problem}
          />
        </DialogContent>
        <DialogActions sx={{ px: "22px", pb: 4 }}>
          <Button onClick={onClose}>{t("Keep it")}</Button>
          <Button type="submit" variant="contained" color="error" disabled={!kept || name.trim() === ""}>
            {t("Delete permanently")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
