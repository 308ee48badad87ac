import { t } from "../messages/t";
import * as z from "zod";
import { isDate, isLocalDateTime } from "../calendar/calendar";

/** An id: text of `[A-Za-z0-9_-]{1,64}`. */
export const id = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,64}$/, { error: () => t("must be 1 to 64 of A–Z, a–z, 0–9, _ and -") });
/** A name people read: any text that is not empty. */
export const name = z.string().min(1);
/** `YYYY-MM-DDTHH:MM` */
export const localDateTime = z
  .string()
  .refine(isLocalDateTime, { error: () => t("must be a local date and time, YYYY-MM-DDTHH:MM, that exists") });
/** `YYYY-MM-DD` */
export const date = z.string().refine(isDate, { error: () => t("must be a date, YYYY-MM-DD, that exists") });
/** Money in major units as decimal text: `"60.00"`. */
export const moneyText = z.string().regex(/^[0-9]+(\.[0-9]+)?$/, 'must be an amount such as "60.00"');
