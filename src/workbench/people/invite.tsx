"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import { Copy } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { Controller } from "react-hook-form";
import * as z from "zod";
import { roles } from "@/core/people/roles";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { RolesChoice } from "./roles-choice";

const invitation = z.object({
  name: saying(() => t("Say whom")),
  roles: z.array(z.enum(roles)).min(1),
  others: z.array(z.string()),
});

/** Makes the link by which somebody joins. */
export function Invite({ onDone }: { onDone: () => Promise<void> }) {
  const { actions } = useDesk();
  const { value: kept = [] } = useAsked("otherSites", []);
  const form = useForm(invitation, { name: "", roles: ["author"], others: [] });
  const { control, reset, setError } = form;
  /** The link that was made last, and for which sites it is beside this one. */
  const [made, setMade] = useState<{ link: string; others: string[] }>();
  const { enqueueSnackbar } = useSnackbar();
  return (
    <Form
      className="stack"
      form={form}
      onSend={({ name, roles: own, others }) =>
        actions.invite(name, own, others).then(
          (path) => {
            setMade({
              link: `${window.location.origin}${path}`,
              others: kept.filter(({ id }) => others.includes(id)).map((site) => site.name),
            });
            reset({ name: "", roles: own, others: [] });
            void onDone();
          },
          (error: unknown) => setError("name", { message: whyNot(error) }),
        )
      }
    >
      <div className="row" style={{ alignItems: "flex-start" }}>
        <FormText
          control={control}
          name="name"
          label={t("Name of the person to invite")}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <Controller
          control={control}
          name="roles"
          render={({ field }) => (
            <RolesChoice of={t("the invited person")} value={field.value} onChange={field.onChange} />
          )}
        />
        <Button type="submit" sx={{ py: 1.5, whiteSpace: "nowrap" }}>
          {t("Create invitation")}
        </Button>
      </div>
      {kept.length > 0 && (
        <FormText
          control={control}
          name="others"
          select
          label={t("Also for")}
          slotProps={{ select: { multiple: true } }}
          helperText={t("Other sites whose people you keep: one link for all of them")}
        >
          {kept.map((site) => (
            <MenuItem key={site.id} value={site.id}>
              {site.name}
            </MenuItem>
          ))}
        </FormText>
      )}
      {made && (
        <div className="row" role="status">
          <span style={{ flex: 1 }}>
            <code style={{ overflowWrap: "anywhere" }}>{made.link}</code>
            {made.others.length > 0 && (
              <span className="quiet"> {t("for {others}, too", { others: made.others.join(", ") })}</span>
            )}
          </span>
          <Button
            startIcon={<Copy size={14} />}
            onClick={() =>
              void navigator.clipboard
                .writeText(made.link)
                .then(() => enqueueSnackbar(t("The link is copied. It is good for a week, and for one person.")))
            }
          >
            {t("Copy")}
          </Button>
        </div>
      )}
    </Form>
  );
}
