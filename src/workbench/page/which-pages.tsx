import { t } from "@/core/messages/t";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

export type Where = "every" | "this";

/** On which pages something that was pointed at is: wherever its part is, or on this page alone. */
export function WhichPages({ where, here, onWhere }: { where: Where; here: string; onWhere: (where: Where) => void }) {
  return (
    <TextField
      select
      label={t("On which pages")}
      value={where}
      onChange={(event) => onWhere(event.target.value as Where)}
      fullWidth
    >
      <MenuItem value="every">{t("Every page that has this part")}</MenuItem>
      <MenuItem value="this">{t("Only {here}", { here })}</MenuItem>
    </TextField>
  );
}
