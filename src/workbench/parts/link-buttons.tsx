"use client";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";

/** Opens a link in a tab of its own, or copies it. */
export function LinkButtons({ link }: { link: string }) {
  const { enqueueSnackbar } = useSnackbar();
  const copy = () =>
    navigator.clipboard.writeText(link).then(
      () => enqueueSnackbar("The link is copied"),
      () => enqueueSnackbar("The browser did not let it be copied.", { variant: "warning" }),
    );
  return (
    <>
      <Button component="a" href={link} target="_blank" rel="noreferrer">
        Open it
      </Button>
      <Button onClick={() => void copy()}>Copy it</Button>
    </>
  );
}
