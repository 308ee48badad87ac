"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";

/** Opens a link in a tab of its own, or copies it. */
export function LinkButtons({ link }: { link: string }) {
  const { enqueueSnackbar } = useSnackbar();
  const copy = () =>
    navigator.clipboard.writeText(link).then(
      () => enqueueSnackbar(t("The link is copied")),
      () => enqueueSnackbar(t("The browser did not let it be copied."), { variant: "warning" }),
    );
  return (
    <>
      <Button component="a" href={link} target="_blank" rel="noreferrer">
        {t("Open it")}
      </Button>
      <Button onClick={() => void copy()}>{t("Copy it")}</Button>
    </>
  );
}
